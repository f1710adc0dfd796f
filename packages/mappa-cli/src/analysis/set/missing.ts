import { type Declaration, resolveStage } from '@mappa/core/definition/definition'
import { listRuleTexts } from '@mappa/core/definition/rule-words'
import type { ProblemCode } from '@mappa/core/problems/problem'
import type { Inspection } from '@mappa/node/load/inspect'
import { chooseLayerFile } from './write-setting.ts'

/** A setting that has no value in a stage, and needs one. */
export interface MissingSetting {
  /** The setting with the rules of the stage. */
  readonly declaration: Declaration
  /** What it may hold, as text. */
  readonly rules: readonly string[]
  /** The layer file that its value goes into, relative to the root. */
  readonly file: string
}

const MISSING: ReadonlySet<ProblemCode> = new Set(['missing', 'empty', 'missing-then', 'placeholder-left'] as const)

/** The settings of a stage that have no value and need one, in the order of the definition. */
export function findMissing({ stage, settings, problems }: Inspection): readonly MissingSetting[] {
  const paths = new Set(problems.filter(({ code }) => MISSING.has(code)).map(({ setting }) => setting))
  return settings
    .filter(({ declaration }) => paths.has(declaration.path))
    .map(({ declaration: general }) => {
      const declaration = resolveStage(general, stage)
      return {
        declaration,
        rules: listRuleTexts(declaration).filter((rule) => rule !== 'required' && rule !== 'optional'),
        file: chooseLayerFile(declaration, { stage, local: false }),
      }
    })
}
