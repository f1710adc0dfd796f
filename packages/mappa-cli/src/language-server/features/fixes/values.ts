import { quoteValue } from '@mappa/core/envfile/quote'
import type { TextEdit } from 'vscode-languageserver'
import { toRange } from '../../places.ts'
import { type Broken, edit, type Fix, findEntry } from './fix.ts'

/** Puts a value into quotes that keep it as it is read now. */
export const quote: Fix = (broken) => {
  const value = findFixedValue(broken)
  if (value === null) return []
  const written = quoteValue(value)
  return [withValue(broken, 'Quote the value of {name}', /^['"]/.test(written) ? written : `'${written}'`)]
}

/** Takes away the whitespace around a value. */
export const trimmed: Fix = (broken) => {
  const value = findFixedValue(broken)
  return value === null
    ? []
    : [withValue(broken, 'Remove the whitespace around the value of {name}', quoteValue(value.trim()))]
}

/** Takes away quotes that are part of a value. */
export const unquoted: Fix = (broken) => {
  const value = findFixedValue(broken)
  if (value === null || !/^(['"])[\s\S]*\1$/.test(value)) return []
  return [withValue(broken, 'Remove the quotes from the value of {name}', quoteValue(value.slice(1, -1)))]
}

/** Writes the value that was probably meant. Of a secret nobody knows it. */
export const valueWritten: Fix = (broken) => {
  const { near } = broken.data
  if (near === null || findFixedValue(broken) === null) return []
  return [withValue(broken, `Write ${near}`, quoteValue(near))]
}

/** Adds the unit that is missing: nobody can tell which one is meant. */
export const withUnit: Fix = (broken) => {
  const { near } = broken.data
  if (near === null || findFixedValue(broken) === null) return []
  return ['ms', 's', 'm'].map((unit) => withValue(broken, `Write ${near}${unit}`, `${near}${unit}`, false))
}

/** The value of the entry, if it is a text without references. */
function findFixedValue(broken: Broken): string | null {
  const entry = findEntry(broken)
  return entry === undefined || entry.broken || typeof entry.value !== 'string' ? null : entry.value
}

function withValue(broken: Broken, title: string, newText: string, isPreferred = true) {
  const { name, valueStart, valueEnd } = findEntry(broken)!
  const edits = around(String(broken.document), valueStart, valueEnd, newText)
  return edit(broken, title.replace('{name}', name), edits, isPreferred)
}

/** The edits that make a piece of text another one. What stays in it is left where it is, so that no secret is in an edit. */
function around(text: string, from: number, to: number, after: string): TextEdit[] {
  const before = text.slice(from, to)
  const replaced = (start: number, end: number, newText: string) => ({ range: toRange(text, start, end), newText })
  const outer = after.indexOf(before)
  if (outer >= 0)
    return [replaced(from, from, after.slice(0, outer)), replaced(to, to, after.slice(outer + before.length))]
  const inner = before.indexOf(after)
  if (inner >= 0) return [replaced(from, from + inner, ''), replaced(from + inner + after.length, to, '')]
  return [replaced(from, to, after)]
}
