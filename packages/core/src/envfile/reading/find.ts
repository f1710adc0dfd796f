import { BACKSLASH, DOUBLE } from './characters.ts'

/** Words that bash makes several of: `{a,b}` and `{1..3}`; not references. */
const BRACES = /(?<![$\\])\{[^{}'"\s]*(?:,|\.\.)[^{}'"\s]*\}/

/** Where braces begin that bash expands, in a part of a text; -1 where there are none. */
export function findBraces(text: string, from: number, to: number): number {
  const found = BRACES.exec(text.slice(from, to))
  return found === null ? -1 : from + found.index
}

/** The double quote that closes a value, from an offset at which no escape is half read; -1 where none does. */
export function findClosingQuote(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at)
    if (code === BACKSLASH) at++
    else if (code === DOUBLE) return at
  }
  return -1
}
