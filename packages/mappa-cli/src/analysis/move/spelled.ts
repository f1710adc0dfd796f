/** Where a value stands in a text, however it is spelled there. */
export interface Spelled {
  /** Offsets in the text, from 0; `end` is behind it. */
  readonly start: number
  readonly end: number
}

/**
 * Finds every place at which a value stands in source code: as it is, under escapes of JavaScript or JSON (ECMA-262, section
 * 12.9.4; RFC 8259, section 7), and in fixed texts that `+` joins.
 *
 * @param value at least one character
 * @returns the places in their order; none overlap
 * @example
 * [...findSpelled("key = 'dome-\\x41' + 'b'", 'dome-Ab')] // [{ start: 7, end: 22 }]
 */
export function* findSpelled(text: string, value: string): Generator<Spelled> {
  const first = value[0]
  if (first === undefined) return
  for (let start = findNextCandidate(text, first, 0); start >= 0; ) {
    const end = findEnd(text, start, value)
    if (end !== null) yield { start, end }
    // Of two backslashes, the second one begins nothing.
    const next = text.startsWith('\\\\', start) ? 2 : 1
    start = findNextCandidate(text, first, end ?? start + next)
  }
}

/** True where a value stands in a text in any of the ways of {@link findSpelled}. */
export function isSpelled(text: string, value: string): boolean {
  return text.includes(value) || findSpelled(text, value).next().done === false
}

/** Where the value may begin: at its first character, or at an escape of it. */
function findNextCandidate(text: string, first: string, from: number): number {
  const plain = text.indexOf(first, from)
  const slash = text.indexOf('\\', from)
  if (plain < 0) return slash
  return slash < 0 ? plain : Math.min(plain, slash)
}

/** Where a value that begins at an offset ends; `null` where it does not go on. */
function findEnd(text: string, start: number, value: string): number | null {
  let at = start
  for (let done = 0; done < value.length; ) {
    const step = findStep(text, at, value, done)
    if (step !== null) {
      at += step.length
      done += step.gives
      continue
    }
    const gap = done === 0 ? 0 : findGap(text, at)
    if (gap === 0) return null
    at += gap
  }
  return at
}

/** What one spelling takes of the text, and how much of the value it gives. */
interface Step {
  readonly length: number
  readonly gives: number
}

function findStep(text: string, at: number, value: string, done: number): Step | null {
  if (text[at] === '\\') {
    const escaped = readEscape(text, at)
    if (escaped !== null && value.startsWith(escaped.gives, done))
      return { length: escaped.length, gives: escaped.gives.length }
  }
  if (text[at] === value[done]) return { length: 1, gives: 1 }
  // Files of Windows, in which a value was put as it is.
  return value[done] === '\n' && text[at] === '\r' && text[at + 1] === '\n' ? { length: 2, gives: 1 } : null
}

const SINGLE: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', v: '\v', 0: '\0' }
const NUMBERED = /\\(?:x([\da-f]{2})|u([\da-f]{4})|u\{0*([\da-f]{1,6})\})/iy

function readEscape(text: string, at: number): { readonly length: number; readonly gives: string } | null {
  NUMBERED.lastIndex = at
  const numbered = NUMBERED.exec(text)
  if (numbered !== null) {
    const point = Number.parseInt(numbered[1] ?? numbered[2] ?? numbered[3]!, 16)
    return point > 0x10ffff ? null : { length: numbered[0].length, gives: String.fromCodePoint(point) }
  }
  const next = text[at + 1]
  if (next === undefined || /[xu\r\n]/.test(next)) return null
  return { length: 2, gives: SINGLE[next] ?? next }
}

const GAP = /\\\r?\n|(["'`])\s*\+\s*["'`]/y

/** What stands between two pieces of one text and gives nothing: the end of a line that goes on, or a `+`. */
function findGap(text: string, at: number): number {
  GAP.lastIndex = at
  return GAP.exec(text)?.[0].length ?? 0
}
