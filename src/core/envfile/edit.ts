import { editingProblem } from '../problems/of-commands.ts'
import type { problem } from '../problems/problem.ts'
import { SettingsError } from '../problems/settings-error.ts'
import { applyEdits, type TextEdit } from '../text/edits.ts'
import { isVariableName } from '../text/variable-name.ts'
import { isLineEnd } from './characters.ts'
import { dayComment, dayLine, lineStart } from './day.ts'
import type { EnvEntry } from './entry.ts'
import { quoteValue } from './quote.ts'
import type { Template } from './template.ts'

/** What an edit needs to know of a document. */
export interface Editable {
  readonly text: string
  readonly entries: readonly EnvEntry[]
  readonly last: (name: string) => EnvEntry | undefined
}

/** Options of {@link setEntry}. */
export interface SetOptions {
  /** The name behind which a new entry goes; the end of the file if left out. */
  readonly after?: string
  /** The day on which the value was set, as `2026-11-23`. It is kept as a comment line above the entry. */
  readonly day?: string
  /** Comment lines above a new entry, without their `#`. */
  readonly comment?: readonly string[]
}

/**
 * Gives a value to a name. Nothing else changes: comments, order, spacing, line ends and a missing last line end
 * stay, and quotes do where they can hold the value.
 *
 * @param crlf how line breaks within the value are written; as the lines of the file end, if left out
 * @returns the new text
 * @throws {SettingsError} where the name or the value can't be written
 */
export function setEntry(
  editable: Editable,
  name: string,
  value: string,
  options: SetOptions = {},
  crlf = isCrlf(editable.text),
): string {
  mustBeName(name)
  const { text } = editable
  const existing = editable.last(name)
  if (existing === undefined) return insertEntry(editable, `${name}=${quoteValue(value, '', crlf)}`, options)
  const quote = existing.broken ? '' : existing.quote
  // From the name on, so that blanks around = go: a shell would not read them.
  const entry = { from: existing.nameEnd, to: existing.valueEnd, by: `=${quoteValue(value, quote, crlf)}` }
  const days = options.day === undefined ? [] : [dayChange(text, existing, options.day)]
  return applyEdits(text, [...days, entry])
}

/** Takes out every entry of a name, with its line and the comment that says when it was set. */
export function removeEntry({ text, entries }: Editable, name: string): string {
  const changes = entries
    .filter((entry) => entry.name === name)
    .map((entry) => {
      const dated = dayLine(text, entry)
      const from = dated === null ? lineStart(text, entry) : dated.from
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
      for (const at of referencesTo(entry.value, from)) changes.push({ from: at, to: at + from.length, by: to })
    }
  }
  return applyEdits(text, changes)
}

function insertEntry({ text, last }: Editable, line: string, { after, day, comment = [] }: SetOptions): string {
  const eol = isCrlf(text) ? '\r\n' : '\n'
  const lines = [
    ...comment.map((each) => `# ${each.replace(/[\r\n]+/g, ' ')}`),
    ...(day ? [dayComment(day)] : []),
    line,
  ]
  const written = lines.join(eol)
  const anchor = after === undefined ? undefined : last(after)
  if (anchor !== undefined) {
    const end = text.indexOf('\n', anchor.valueEnd)
    return end < 0 ? `${text}${eol}${written}` : `${text.slice(0, end + 1)}${written}${eol}${text.slice(end + 1)}`
  }
  if (text === '' || text === '\ufeff') return `${text}${written}${eol}`
  return text.endsWith('\n') ? `${text}${written}${eol}` : `${text}${eol}${written}`
}

function dayChange(text: string, entry: EnvEntry, day: string): TextEdit {
  const at = lineStart(text, entry)
  return { ...(dayLine(text, entry) ?? { from: at, to: at }), by: `${dayComment(day)}${isCrlf(text) ? '\r\n' : '\n'}` }
}

function* referencesTo(template: Template, name: string): Generator<number> {
  for (const piece of template) {
    if (typeof piece === 'string') continue
    if (piece.name === name) yield piece.at
    yield* referencesTo(piece.word, name)
  }
}

/** True for a text whose first line ends in CRLF, as in reading. */
export function isCrlf(text: string): boolean {
  const first = text.indexOf('\n')
  return first > 0 && isLineEnd(text, first - 1)
}

function mustBeName(name: string): void {
  if (!isVariableName(name))
    refuse(editingProblem('name-unwritable', { name: JSON.stringify(String(name).slice(0, 80)) }))
}

function refuse(why: ReturnType<typeof problem>): never {
  throw new SettingsError({ title: 'Settings', stage: null, problems: [why] })
}
