import { BACKSLASH, DOUBLE, SINGLE } from './characters.ts'

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

/**
 * A single quote within a reference in double quotes, such as `"${B:-it's}"`, that bash takes for the beginning of a quoted text, while
 * other shells keep it; -1 where there is none. Two of them with no brace between are kept by all.
 */
export function findLoneQuote(text: string, from: number, to: number): number {
  let depth = 0
  for (let at = from; at < to; at++) {
    const code = text.charCodeAt(at)
    if (code === BACKSLASH) at++
    else if (text.startsWith('${', at)) depth++
    else if (depth > 0 && text[at] === '}') depth--
    else if (depth > 0 && code === SINGLE) {
      const end = text.indexOf("'", at + 1)
      if (end < 0 || end >= to || /[{}]/.test(text.slice(at, end))) return at
      at = end
    }
  }
  return -1
}
