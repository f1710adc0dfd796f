import type { ObstacleCode } from '@mappa/source/obstacles'
import type { FileSurroundings, ReadVariable, Replaceable, Replacement, Rewriting } from '@mappa/source/rewriting'
import { applySuppressions } from '@mappa/source/suppressions'
import { isNested } from '../survey/findings.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import { findSpelled } from './spelled.ts'
import type { Wanted } from './wanted.ts'

/** A place at which a wanted value stands in a file. */
export interface FoundValue {
  readonly line: number
  readonly column: number
  readonly start: number
  readonly end: number
  /** Where the value itself is in that. */
  readonly span: { readonly start: number; readonly end: number }
  readonly wanted: Wanted
  /** The variable that it stands in for, if any. */
  readonly variable: string | null
  /** Why it can't be replaced; `null` where it can. */
  readonly obstacle: Obstacle | null
  /** The edits that put the reading of a variable in its place. */
  readonly edits: (variable: ReadVariable) => Replacement
}

/** A file that is changed. */
export interface ChangedFile {
  readonly text: string
  readonly file: string
  readonly rewriting: Rewriting
  readonly around: FileSurroundings
}

/**
 * Finds where values stand in a file.
 *
 * @returns `null` where the file can't be understood
 */
export function findValues(
  { text, file, rewriting, around }: ChangedFile,
  wanted: readonly Wanted[],
): readonly FoundValue[] | null {
  const secrets = wanted.filter(({ reach }) => reach === 'everywhere').map(({ value }) => value)
  const all = rewriting.find(text, file, around, secrets)
  if (all === null) return null
  const found = applySuppressions(all, text).flatMap((each) =>
    wanted.flatMap((one) => findValue(text, each, one) ?? []),
  )
  // Of two in one place, the longer holds the other; a secret comes before an address that goes on around it.
  const sorted = [...found].sort(
    (a, b) =>
      a.start - b.start || b.end - a.end || getRank(b) - getRank(a) || b.wanted.value.length - a.wanted.value.length,
  )
  return sorted
    .filter((each, at) => !sorted.some((one, before) => before < at && isEnclosed(each, one)))
    .map((each) => {
      if (each.obstacle !== null) return each
      const tried = each.edits(toTrial(each))
      return Array.isArray(tried)
        ? each
        : { ...each, obstacle: makeObstacle((tried as ObstacleCode | null) ?? 'not-written') }
    })
}

/** All of a text, then secrets in it, then the rest. */
function getRank({ start, end, span, wanted }: FoundValue): number {
  if (span.start === start && span.end === end) return 2
  return wanted.reach === 'everywhere' ? 1 : 0
}

/** True where a value is a part of another one, or goes with the text that the other one is. */
function isEnclosed(each: FoundValue, other: FoundValue): boolean {
  if (each.start !== other.start || each.end !== other.end) return other.start <= each.start && each.end <= other.end
  return each.span.start < other.span.end && other.span.start < each.span.end
}

/** A variable to try with whether a change can be written. */
export function toTrial({ variable, wanted }: FoundValue): ReadVariable {
  return { name: variable ?? 'MAPPA_TRIAL', form: 'text', secret: wanted.reach === 'everywhere' }
}

function findValue(text: string, each: Replaceable, wanted: Wanted): FoundValue | null {
  const { line, column, start, end } = each
  const { value, reach, found, within } = wanted
  const place = { line, column, start, end, span: { start, end }, wanted, variable: each.variable }
  const obstacle = each.obstacle === null ? null : makeObstacle(each.obstacle)
  if (within !== undefined) return findWhole(each, wanted, within)
  const isFound = found.has(start) || [...found].some((at) => start <= at && at < end && reach !== 'everywhere')
  // The same number may be another thing elsewhere.
  if (each.form === 'number' && !isFound) return null
  if (each.value === value && (reach !== 'found' || isFound)) return { ...place, obstacle, edits: each.replace }
  const { replacePart } = each
  if (each.form === 'number' || replacePart === undefined || !isPart(each.value, wanted, isFound)) return null
  const spelled = findSpelled(text.slice(start, end), value).next()
  if (spelled.done === true) return { ...place, obstacle: obstacle ?? makeObstacle('escapes'), edits: () => null }
  const { start: from, end: to } = spelled.value
  const span = { start: start + from, end: start + to }
  return { ...place, span, obstacle, edits: (variable) => replacePart(variable, span.start, span.end) }
}

/** True where a value counts as a part of a longer text. */
function isPart(text: string, { value, reach }: Wanted, isFound: boolean): boolean {
  if (!text.includes(value)) return false
  return reach === 'everywhere' || isFound || (reach === 'address' && isNested(text, value))
}

/** The conditional that begins with a value; `null` where the value is another one. */
function findWhole(
  each: Replaceable,
  wanted: Wanted,
  { start, end }: NonNullable<Wanted['within']>,
): FoundValue | null {
  if (each.value !== wanted.value || !wanted.found.has(each.start)) return null
  return {
    line: each.line,
    column: each.column,
    start,
    end,
    span: { start, end },
    wanted,
    variable: null,
    obstacle: each.obstacle === null ? null : makeObstacle(each.obstacle),
    edits: (variable) => each.replaceAround?.(variable, start, end) ?? null,
  }
}
