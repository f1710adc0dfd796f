import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import { fs, path } from '@mappa/node/fs/builtin'
import type { ObstacleCode } from '@mappa/source/obstacles'
import type { FileSurroundings, ReadVariable, Replaceable, Replacement, Rewriting } from '@mappa/source/rewriting'
import { applySuppressions } from '@mappa/source/suppressions'
import { isNested } from '../survey/findings.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import type { Wanted } from './occurrences.ts'
import type { SourceDriver } from './source-driver.ts'
import { findSpelled } from './spelled.ts'

/** A place at which a wanted value stands in a file of any language but JavaScript. */
interface FoundValue {
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
 * Changes a language that reads variables, or makes a template of a file that can't.
 *
 * @param whole the absolute path of the file
 */
export function makeVariablesDriver(
  changed: ChangedFile,
  { whole, template, clearsOutputs }: Pick<SourceDriver, 'template' | 'clearsOutputs'> & { readonly whole: string },
): SourceDriver {
  const { rewriting, text } = changed
  return {
    rewriting,
    template,
    clearsOutputs,
    findObstacle: (wanted) => {
      if (template !== null && fs.existsSync(path.join(path.dirname(whole), path.basename(template))))
        return makeObstacle('template-there', { file: template })
      if (findValues(changed, wanted) === null) return makeObstacle('syntax')
      return staysReadable(changed, wanted) ? null : makeObstacle('unsure')
    },
    findPlaces: (wanted) => findValues(changed, wanted) ?? [],
    listOutputs: () => rewriting.outputs?.ranges(text) ?? [],
    rewrite: ({ wanted, settingOf, staysAt, gone }) => {
      const after = rewriteValues(changed, wanted, (each) => {
        const setting = staysAt(each.start) ? undefined : settingOf(each.wanted)
        return setting === undefined ? null : { name: setting.name, form: setting.type, secret: setting.secret }
      })
      return clearsOutputs ? applyEdits(after, rewriting.outputs!.clear(after, gone)) : after
    },
  }
}

/**
 * Finds where values stand in a file.
 *
 * @returns `null` where the file can't be understood
 */
function findValues(
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
    .filter((each, at) => !sorted.slice(Math.max(0, at - 8), at).some((one) => isEnclosed(each, one)))
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
function toTrial({ variable, wanted }: FoundValue): ReadVariable {
  return { name: variable ?? 'MAPPA_TRIAL', form: 'text', secret: wanted.reach === 'everywhere' }
}

/**
 * True where a file can be read as before after all of its values are replaced, and no secret is left that was to go: a change that
 * its parser stumbles over is none.
 *
 * @param wanted the values that are to go
 */
function staysReadable(changed: ChangedFile, wanted: readonly Wanted[]): boolean {
  const { faults } = changed.rewriting
  const trial = { ...changed, around: { ...changed.around, helpers: new Set(changed.around.helpers) } }
  const after = rewriteValues(trial, wanted, toTrial)
  if (faults !== undefined && faults(after) > faults(changed.text)) return false
  const places = findValues(changed, wanted) ?? []
  return wanted.every((each) => each.reach !== 'everywhere' || isGone(each.value, changed.text, after, places))
}

/** True where a secret is left in no other place than in those that stay: edits that stand in each other's way may be lost. */
function isGone(value: string, before: string, after: string, places: readonly FoundValue[]): boolean {
  const goes = places.filter(({ obstacle }) => obstacle === null)
  const stay = [...findSpelled(before, value)].filter(
    ({ start, end }) => !goes.some((each) => each.start <= start && end <= each.end),
  )
  return [...findSpelled(after, value)].length <= stay.length
}

function findValue(text: string, each: Replaceable, wanted: Wanted): FoundValue | null {
  const { line, column, start, end } = each
  const { value, reach, found, within } = wanted
  const place = { line, column, start, end, span: { start, end }, wanted, variable: each.variable }
  const obstacle = each.obstacle === null ? null : makeObstacle(each.obstacle)
  if (within !== undefined) return findWhole(each, wanted, within)
  const isFound = found.has(start) || [...found].some((at) => start <= at && at < end && reach !== 'everywhere')
  if (each.value === value && (reach !== 'found' || isFound)) return { ...place, obstacle, edits: each.replace }
  const isPart =
    reach === 'everywhere'
      ? each.value.includes(value)
      : (reach === 'address' || isFound) && isNested(each.value, value)
  const isHeld = isPart || (isFound && each.value.includes(value))
  if (!isHeld || each.form === 'number') return null
  const spelled = findSpelled(text.slice(start, end), value).next()
  if (spelled.done === true) return { ...place, obstacle: obstacle ?? makeObstacle('escapes'), edits: () => null }
  const { start: from, end: to } = spelled.value
  const span = { start: start + from, end: start + to }
  return { ...place, span, obstacle, edits: (variable) => each.replacePart(variable, span.start, span.end) }
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

/**
 * Puts the readings of variables in the place of values, and adds what they need.
 *
 * @param variableOf what each value becomes; `null` for one that stays
 * @returns the new text
 */
function rewriteValues(
  { text, file, rewriting, around }: ChangedFile,
  wanted: readonly Wanted[],
  variableOf: (found: FoundValue) => ReadVariable | null,
): string {
  let after = text
  // A text may hold several values, of which one goes at a time.
  for (let round = 0; round < 8; round++) {
    const again = round === 0 ? wanted : wanted.filter(({ reach }) => reach !== 'found')
    const values = findValues({ text: after, file, rewriting, around }, again) ?? []
    const changed = new Set<number>()
    const edits = values.flatMap((each) => {
      const variable = each.obstacle === null && !changed.has(each.start) ? variableOf(each) : null
      const edits = variable === null ? null : each.edits(variable)
      if (!Array.isArray(edits)) return []
      changed.add(each.start)
      return edits
    })
    if (edits.length === 0) break
    const ordered = withoutOverlaps(edits)
    after = applyEdits(
      after,
      [...(rewriting.complete?.(after, ordered, around) ?? ordered)].sort((a, b) => a.from - b.from),
    )
  }
  return rewriting.tidy?.(after) ?? after
}

/** Edits in their order. Of two that meet, as those of one declaration do, the first stays. */
function withoutOverlaps(edits: readonly TextEdit[]): readonly TextEdit[] {
  const sorted = [...edits].sort((a, b) => a.from - b.from || a.to - b.to)
  return sorted.filter((each, at) => {
    const before = sorted[at - 1]
    return before === undefined || each.from >= before.to
  })
}
