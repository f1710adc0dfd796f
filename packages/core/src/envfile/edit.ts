import { editingProblem } from '../problems/catalogue/editing.ts'
import type { Problem } from '../problems/problem.ts'
import { settingsError } from '../problems/settings-error.ts'
import type { Template } from '../template/template.ts'
import { applyEdits, type TextEdit } from '../text/edits.ts'
import { addDuration } from '../text/iso-duration.ts'
import { isVariableName } from '../text/variable-name.ts'
import { quoteValue } from './quote.ts'
import { endsInCrlf } from './reading/characters.ts'
import { findDayLine, findLineStart, writeDayComment } from './reading/day.ts'
import type { EnvEntry } from './reading/entry.ts'

/** What an edit needs to know of a document. */
export interface Editable {
  readonly text: string
  readonly entries: readonly EnvEntry[]
  readonly last: (name: string) => EnvEntry | undefined
}

/** Options of `set`. */
export interface SetOptions {
  /**
   * The name behind which a new entry goes.
   * @default the end of the file
   */
  readonly after?: string
  /**
   * The day on which the value was set, such as `'2026-11-23'`. It is kept in a comment above the entry.
   * @default none
   */
  readonly day?: string
  /**
   * Comment lines above a new entry, without their `#`.
   * @default none
   */
  readonly comment?: readonly string[]
}

/**
 * Gives a value to a name. Nothing else changes: comments, order, spacing, line ends and a missing last line end
 * stay, and quotes do where they can hold the value.
 *
 * @returns the new text
 * @throws {SettingsError} where the name or the value can't be written
 */
export function setEntry(editable: Editable, name: string, value: string, options: SetOptions = {}): string {
  mustBeName(name)
  mustBeDay(options.day)
  const { text } = editable
  const existing = editable.last(name)
  if (existing === undefined) return insertEntry(editable, name, value, options)
  const crlf = endsInCrlf(text, existing.valueEnd, existing.start - (existing.column - 1))
  const quote = existing.broken ? '' : existing.quote
  // From the name on, so that blanks around = go: a shell would not read them.
  const entry = { from: existing.nameEnd, to: existing.valueEnd, by: `=${quoteValue(value, quote, crlf)}` }
  const days = options.day === undefined ? [] : [changeDay(text, existing, options.day)]
  return applyEdits(text, [...days, entry])
}

/** Takes out every entry of a name, with its line and the comment that says when it was set. */
export function removeEntry({ text, entries }: Editable, name: string): string {
  const changes = entries
    .filter((entry) => entry.name === name)
    .map((entry) => {
      const dated = findDayLine(text, entry)
      const from = dated === null ? findLineStart(text, entry) : dated.from
      const end = text.indexOf('\n', entry.valueEnd)
      return { from, to: end < 0 ? text.length : end + 1, by: '' }
    })
  const changed = applyEdits(text, changes)
  // Where the last line went and had no line end, the line that is now last has none either.
  return text.endsWith('\n') ? changed : changed.replace(/\r?\n$/, '')
}

/**
 * Gives a name to every entry of another, and to every reference to it in the file.
 *
 * @throws {SettingsError} where the new name can't be one, or has an entry already
 */
export function renameEntry({ text, entries, last }: Editable, from: string, to: string): string {
  mustBeName(to)
  if (from !== to && last(to) !== undefined) refuse(editingProblem('rename-taken', { name: from, to }, { name: to }))
  const changes: TextEdit[] = []
  for (const entry of entries) {
    if (entry.name === from) changes.push({ from: entry.start, to: entry.nameEnd, by: to })
    if (typeof entry.value !== 'string') {
      for (const at of findReferences(entry.value, from)) changes.push({ from: at, to: at + from.length, by: to })
    }
  }
  return applyEdits(text, changes)
}

function insertEntry(editable: Editable, name: string, value: string, options: SetOptions): string {
  const { text, last, entries } = editable
  const { after, day, comment = [] } = options
  const anchor = after === undefined ? undefined : last(after)
  const at = anchor === undefined ? text.length : getLineEnd(text, anchor.valueEnd)
  const unended = at === text.length ? entries.findLast((each) => !text.includes('\n', each.valueEnd)) : undefined
  // Ended otherwise than it is judged now, a value of several lines would become another one.
  const eol = unended === undefined ? findLineBreak(text, at) : getLineBreak(text, unended)
  const lines = [
    ...comment.map((each) => `# ${each.replace(/[\r\n]+/g, ' ')}`),
    ...(day === undefined ? [] : [writeDayComment(day)]),
    `${name}=${quoteValue(value, '', eol === '\r\n')}`,
  ]
  const written = lines.join(eol)
  const isNewLine = at === 0 || text[at - 1] === '\n' || (at === 1 && text[0] === '\ufeff')
  if (isNewLine) return `${text.slice(0, at)}${written}${eol}${text.slice(at)}`
  // The last line has no end, and the new one gets none either.
  return `${text}${eol}${written}`
}

/** Where the line of an offset ends, behind its line break. */
function getLineEnd(text: string, at: number): number {
  const end = text.indexOf('\n', at)
  return end < 0 ? text.length : end + 1
}

/** The line break that a line gets which is put at an offset: that of the line before it. */
function findLineBreak(text: string, at: number): '\n' | '\r\n' {
  const before = text.lastIndexOf('\n', at - 1)
  return before > 0 && at > 0 && text[before - 1] === '\r' ? '\r\n' : '\n'
}

/** The line break that an entry without one would have. */
function getLineBreak(text: string, entry: EnvEntry): string {
  return endsInCrlf(text, entry.valueEnd, findLineStart(text, entry)) ? '\r\n' : '\n'
}

function changeDay(text: string, entry: EnvEntry, day: string): TextEdit {
  const at = findLineStart(text, entry)
  const known = findDayLine(text, entry)
  const before = known !== null && text.slice(known.from, known.to).endsWith('\r\n') ? '\r\n' : '\n'
  const eol = known === null ? findLineBreak(text, at) : before
  return { ...(known ?? { from: at, to: at }), by: `${writeDayComment(day)}${eol}` }
}

function mustBeDay(day: string | undefined): void {
  if (day === undefined) return
  const isDay = /^\d{4}-\d\d-\d\d$/.test(day) && addDuration(day, 'P1D') !== null
  if (!isDay) refuse(editingProblem('day-wrong', { day: JSON.stringify(String(day).slice(0, 80)) }))
}

function* findReferences(template: Template, name: string): Generator<number> {
  for (const piece of template) {
    if (typeof piece === 'string') continue
    if (piece.name === name) yield piece.at
    yield* findReferences(piece.word, name)
  }
}

function mustBeName(name: string): void {
  if (!isVariableName(name))
    refuse(editingProblem('name-unwritable', { name: JSON.stringify(String(name).slice(0, 80)) }))
}

function refuse(why: Problem): never {
  throw settingsError(why)
}
