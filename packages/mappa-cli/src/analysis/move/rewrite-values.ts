import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import type { ReadVariable } from '@mappa/source/rewriting'
import { type ChangedFile, type FoundValue, findValues, toTrial } from './found-values.ts'
import { findSpelled } from './spelled.ts'
import type { Wanted } from './wanted.ts'

/** What is to be replaced in a file, and by what. */
export interface ValueChange {
  readonly wanted: readonly Wanted[]
  /**
   * What a value becomes; `null` where it stays.
   *
   * @param text the text as it is by then, in which the value was found
   */
  readonly chooseVariable: (found: FoundValue, text: string) => ReadVariable | null
  /** Where a value stays: offsets at which it begins in the text as it was. */
  readonly listStays: (wanted: Wanted) => ReadonlySet<number>
  /** Adds what the reading of the values needs, such as an import, to the first edits of a text. */
  readonly complete?: (edits: readonly TextEdit[]) => readonly TextEdit[]
}

/** A text may hold several values, of which one goes at a time. Where one holds more, its file is left alone. */
const MOST_ROUNDS = 100

/**
 * Puts the readings of variables in the place of values, and adds what they need.
 *
 * @returns the new text
 */
export function rewriteValues(
  changed: ChangedFile,
  { wanted, chooseVariable, listStays, complete }: ValueChange,
): string {
  const { rewriting, around } = changed
  let text = changed.text
  let tracked = wanted.map((each): Tracked => ({ wanted: each, original: each, stays: listStays(each) }))
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const byWanted = new Map(tracked.map((each) => [each.wanted, each]))
    const values = findValues({ ...changed, text }, [...byWanted.keys()]) ?? []
    const edits = listEdits(values, (found) => {
      const { original, stays } = byWanted.get(found.wanted)!
      return stays.has(found.start) ? null : chooseVariable({ ...found, wanted: original }, text)
    })
    if (edits.length === 0) break
    const ordered = withoutOverlaps(edits)
    const inLanguage = rewriting.complete?.(text, ordered, around) ?? ordered
    const all = round === 0 ? (complete?.(inLanguage) ?? inLanguage) : inLanguage
    text = applyEdits(text, all)
    tracked = tracked.map((each) => shiftTracked(each, all))
  }
  return rewriting.tidy?.(text) ?? text
}

/** The edits of values, one of each text at a time. */
function listEdits(
  values: readonly FoundValue[],
  chooseVariable: (found: FoundValue) => ReadVariable | null,
): TextEdit[] {
  const changed = new Set<number>()
  return values.flatMap((each) => {
    const variable = each.obstacle === null && !changed.has(each.start) ? chooseVariable(each) : null
    const edits = variable === null ? null : each.edits(variable)
    if (!Array.isArray(edits)) return []
    changed.add(each.start)
    return edits
  })
}

/** A value, with the offsets at which it was found and at which it stays, in the text as it is by now. */
interface Tracked {
  readonly wanted: Wanted
  readonly original: Wanted
  readonly stays: ReadonlySet<number>
}

function shiftTracked({ wanted, original, stays }: Tracked, edits: readonly TextEdit[]): Tracked {
  const { within } = wanted
  const range = within === undefined ? [] : [within.start, within.end].flatMap((at) => shiftOffset(at, edits) ?? [])
  const [start, end] = range
  const shifted = { ...wanted, found: shiftAll(wanted.found, edits) }
  return {
    wanted: start === undefined || end === undefined ? shifted : { ...shifted, within: { start, end } },
    original,
    stays: shiftAll(stays, edits),
  }
}

function shiftAll(offsets: ReadonlySet<number>, edits: readonly TextEdit[]): ReadonlySet<number> {
  return new Set([...offsets].flatMap((at) => shiftOffset(at, edits) ?? []))
}

/** Where a character is after edits; `null` for one that they replaced. */
function shiftOffset(at: number, edits: readonly TextEdit[]): number | null {
  if (edits.some(({ from, to }) => from <= at && at < to)) return null
  return edits.reduce((sum, { from, to, by }) => (to <= at ? sum + by.length - (to - from) : sum), at)
}

/** Edits in their order. Of two that meet, as those of one declaration do, the first stays. */
function withoutOverlaps(edits: readonly TextEdit[]): readonly TextEdit[] {
  const sorted = [...edits].sort((a, b) => a.from - b.from || a.to - b.to)
  return sorted.filter((each, at) => {
    const before = sorted[at - 1]
    return before === undefined || each.from >= before.to
  })
}

/**
 * True where a file can be read as before after all of its values are replaced, and no secret is left that was to go: a change that
 * its parser stumbles over is none.
 *
 * @param wanted the values that are to go
 */
export function staysReadable(changed: ChangedFile, wanted: readonly Wanted[]): boolean {
  const { text, file, rewriting, around } = changed
  const trial = { ...changed, around: { ...around, helpers: new Set(around.helpers) } }
  const after = rewriteValues(trial, { wanted, chooseVariable: toTrial, listStays: () => new Set() })
  if (rewriting.faults !== undefined && rewriting.faults(after, file) > rewriting.faults(text, file)) return false
  const places = findValues(changed, wanted) ?? []
  return wanted.every((each) => each.reach !== 'everywhere' || isGone(each.value, text, after, places))
}

/** True where a secret is left in no other place than in those that stay: edits that stand in each other's way may be lost. */
function isGone(value: string, before: string, after: string, places: readonly FoundValue[]): boolean {
  const goes = places.filter(({ obstacle }) => obstacle === null)
  const stay = [...findSpelled(before, value)].filter(
    ({ start, end }) => !goes.some((each) => each.start <= start && end <= each.end),
  )
  return [...findSpelled(after, value)].length <= stay.length
}
