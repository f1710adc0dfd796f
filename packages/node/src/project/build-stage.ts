import type { StageTree } from '@mappa/core/definition/stages'
import { mustBeStage } from '@mappa/core/problems/option-names'
import { problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import type { ChosenStage } from './stage.ts'

/**
 * Holds the stage that was chosen against the one that the program was built for.
 *
 * @throws {SettingsError} if they differ, or there is no such stage
 */
export function applyBuildStage(
  tree: StageTree,
  chosen: ChosenStage,
  { buildStage, allowOtherStage = false }: Readonly<{ buildStage?: string | undefined; allowOtherStage?: boolean }>,
): ChosenStage {
  if (buildStage === undefined) return chosen
  mustBeStage(buildStage, tree, 'the build of this program')
  if (chosen.isAssumed) return { stage: buildStage, from: 'the build of this program' }
  const { stage, from } = chosen
  if (stage === buildStage || allowOtherStage) return chosen
  throw settingsError(problem('stage-not-of-build', { build: buildStage, stage, from }))
}
