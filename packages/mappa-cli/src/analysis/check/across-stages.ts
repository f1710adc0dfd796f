import { isFileOfStages } from '@mappa/core/layers/order'
import { type Problem, problem } from '@mappa/core/problems/problem'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { compareMeanings } from '../compare/meanings.ts'

/** The settings of one stage, worked out. */
interface StageSettings {
  readonly stage: string
  readonly ancestors: readonly string[]
  readonly settings: readonly ResolvedSetting[]
}

/**
 * True for a value that stages do not share by themselves, as they share the environment of this process, and a stage the files of one
 * that it is like.
 */
function isOwn({ candidates, origin }: ResolvedSetting, { ancestors }: StageSettings): boolean {
  const kind = candidates()[0]?.layer.kind
  if (origin !== null && isFileOfStages(origin.layer, ancestors)) return false
  return kind === 'file' || kind === 'directory' || kind === 'store'
}

/**
 * Finds settings declared `distinctAcrossStages` that have the same value in several stages. Values from the environment of the process
 * are left aside: it is the same one for all stages that are checked together.
 *
 * @returns one problem for each stage and setting, without any value
 */
export function findSharedValues(inspections: readonly StageSettings[]): readonly Problem[] {
  const problems: Problem[] = []
  for (const [index, { declaration }] of (inspections[0]?.settings ?? []).entries()) {
    if (declaration.options.distinctAcrossStages !== true) continue
    const { name, path } = declaration
    for (const same of groupByMeaning(inspections, index)) {
      if (same.length < 2) continue
      const stages = same.map((each) => each.stage)
      for (const { stage, found } of same) {
        const { file, line, column } = found.origin!
        problems.push(problem('value-shared', { name, stages }, { file, line, column, name, setting: path, stage }))
      }
    }
  }
  return problems
}

/** A value, and the stage that has it. */
interface StageValue {
  readonly stage: string
  readonly found: ResolvedSetting
}

/** The values of a setting in all stages, those together that mean the same: 1kB and 1000 are one size. */
function groupByMeaning(inspections: readonly StageSettings[], index: number): readonly (readonly StageValue[])[] {
  const byMeaning = new Map<string, StageValue[]>()
  const meanings = compareMeanings(inspections.map(({ settings }) => settings[index]!))
  for (const [at, inspection] of inspections.entries()) {
    const { stage, settings } = inspection
    const found = settings[index]!
    const meaning = meanings[at]!
    // The process environment and defaults are the same for all stages.
    if (meaning === null || !isOwn(found, inspection)) continue
    byMeaning.set(meaning, [...(byMeaning.get(meaning) ?? []), { stage, found }])
  }
  return [...byMeaning.values()]
}
