import type { StageTree } from '@mappa/core/definition/stages'
import { mustBeStage } from '@mappa/core/problems/option-names'
import { problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import type { ChosenStage } from './stage.ts'

/** For which stage a program was built, and whether another one may be chosen when it starts. */
export interface BuildStageOptions {
  /**
   * The stage that the program was built for, as a bundler can write it into the code. It holds where nothing names a stage; another one
   * that is named is an error, since values of the build are of this one.
   * @default the program was built for no stage
   */
  readonly buildStage?: string | undefined
  /**
   * True if a program may be started for another stage than it was built for, as where one build is for all stages.
   * @default false
   */
  readonly allowOtherStage?: boolean
}

/**
 * Holds the stage that was chosen against the one that the program was built for.
 *
 * @throws {SettingsError} if they differ, or there is no such stage
 */
export function applyBuildStage(
  tree: StageTree,
  chosen: ChosenStage,
  { buildStage, allowOtherStage = false }: BuildStageOptions,
): ChosenStage {
  if (buildStage === undefined) return chosen
  mustBeStage(buildStage, tree, 'the build of this program')
  if (chosen.isAssumed) return { stage: buildStage, from: 'the build of this program' }
  const { stage, from } = chosen
  if (stage === buildStage || allowOtherStage) return chosen
  throw settingsError(problem('stage-not-of-build', { build: buildStage, stage, from }))
}
