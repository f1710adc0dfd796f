/** What of a text is written in digits: in base64, in hexadecimal digits and as numbers. */
export interface Runs {
  /** Digits of base64 (RFC 4648) of either alphabet, without the ends of lines that were between them. */
  readonly base64: readonly string[]
  /** Hexadecimal digits, without what was between the pairs. */
  readonly hexadecimal: readonly string[]
  /** Lists of numbers, one for each byte or each character. */
  readonly numbers: readonly (readonly number[])[]
}

/** What may stand before a line that goes on: blanks, signs of comments and quotations, quotes of texts that are joined. */
const MARGIN = '(?:[ \\t>#*|+"\',;:-]|//)*'
/** The end of a line, also of one that is escaped. */
const LINE_END = `["'\`]?[ \\t]*(?:\\\\|\\\\r)?(?:\\r?\\n|\\\\r\\\\n|\\\\n)${MARGIN}`
/** The rest of a run that goes on in the next line, and in those behind it. */
const MORE_LINES = new RegExp(`(?:${LINE_END}[A-Za-z0-9+/_-]{2,})*`, 'y')
const LINE_ENDS = new RegExp(LINE_END, 'g')
/** A run of fewer digits is taken for a word. */
const SHORTEST_RUN = 16

const PAIRS = /[0-9a-fA-F]{2}(?:[\s:.-]{0,80}[0-9a-fA-F]{2}){7,}/g
const NUMBERS = /(?:0x[0-9a-fA-F]{1,6}|\d{1,7})(?:[\s,;]{1,80}(?:0x[0-9a-fA-F]{1,6}|\d{1,7})){5,}/g
/** Shorter stretches hold no list of a text that is worth a search, in characters. */
const SHORTEST_LIST = 14
/** So many characters apart it is looked whether a list may be there: four places in each of them. */
const STEP = 8

/** What a character can be: several of these. */
const [BASE64, HEXADECIMAL, LISTED, LINE_END_BEGIN] = [1, 2, 4, 8]
const CLASSES = new Uint8Array(256)
for (const [characters, kind] of [
  ['ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/_-', BASE64],
  ['0123456789abcdefABCDEF', HEXADECIMAL],
  ['0123456789abcdefABCDEFx \t\n\v\f\r\xa0:.,;-', LISTED],
  ['"\'` \t\\\r\n', LINE_END_BEGIN],
] as const)
  for (const each of characters) CLASSES[each.charCodeAt(0)]! |= kind

/**
 * Finds what of a text is written in digits. Most of a text is none, and only looked at.
 *
 * @param text one character, up to U+00FF, for each byte
 */
export function findRuns(text: string): Runs {
  // Bytes are looked through more than twice as fast as characters.
  const bytes = Buffer.from(text, 'latin1')
  return { base64: findLongRuns(text, bytes), ...findLists(text, bytes) }
}

/** Digits of base64 alone, in one line or in several; hexadecimal digits without anything between them are such digits as well. */
export function findBase64(text: string): readonly string[] {
  return findLongRuns(text, Buffer.from(text, 'latin1'))
}

function findLongRuns(text: string, bytes: Uint8Array): readonly string[] {
  const found: string[] = []
  // A run covers at least one of the places at this distance, so only there it is looked whether one is.
  for (let at = SHORTEST_RUN - 1; at < bytes.length; at += SHORTEST_RUN) {
    if ((CLASSES[bytes[at]!]! & BASE64) === 0) continue
    const start = findStart(bytes, at, BASE64)
    let end = findEnd(bytes, at, BASE64)
    if (end - start >= SHORTEST_RUN) {
      const more = readMoreLines(text, bytes, end)
      found.push(text.slice(start, end) + more.replace(LINE_ENDS, ''))
      end += more.length
    }
    // On to the place behind the run that is one of those looked at.
    at += Math.floor((end - 1 - at) / SHORTEST_RUN) * SHORTEST_RUN
  }
  return found
}

function readMoreLines(text: string, bytes: Uint8Array, end: number): string {
  // Hardly any run ends so.
  if (end === bytes.length || (CLASSES[bytes[end]!]! & LINE_END_BEGIN) === 0) return ''
  MORE_LINES.lastIndex = end
  return MORE_LINES.exec(text)![0]
}

/** Where the stretch of one kind begins that a place is in. */
function findStart(bytes: Uint8Array, at: number, kind: number): number {
  let start = at
  while (start > 0 && (CLASSES[bytes[start - 1]!]! & kind) !== 0) start--
  return start
}

/** Where it ends. */
function findEnd(bytes: Uint8Array, at: number, kind: number): number {
  let end = at
  while (end < bytes.length && (CLASSES[bytes[end]!]! & kind) !== 0) end++
  return end
}

/** Pairs of hexadecimal digits, and numbers. */
function findLists(text: string, bytes: Uint8Array): Pick<Runs, 'hexadecimal' | 'numbers'> {
  const hexadecimal: string[] = []
  const numbers: (readonly number[])[] = []
  for (let at = STEP - 1; at < bytes.length; at += STEP) {
    if (!mayBeListed(bytes, at)) continue
    const start = findStart(bytes, at, LISTED)
    const end = findEnd(bytes, at, LISTED)
    if (hasDigits(bytes, start, end)) {
      const list = text.slice(start, end)
      for (const [pairs] of list.matchAll(PAIRS)) hexadecimal.push(pairs.replace(/[^0-9a-f]/gi, ''))
      for (const [run] of list.matchAll(NUMBERS)) numbers.push(run.split(/[\s,;]+/).map(Number))
    }
    // On to the place behind the list that is one of those looked at.
    at += Math.floor((end - 1 - at) / STEP) * STEP
  }
  return { hexadecimal, numbers }
}

/** In most words one of these is no digit and stands between none. */
function mayBeListed(bytes: Uint8Array, at: number): boolean {
  const kinds = CLASSES[bytes[at]!]! & CLASSES[bytes[at - 2]!]! & CLASSES[bytes[at - 4]!]! & CLASSES[bytes[at - 6]!]!
  return (kinds & LISTED) !== 0
}

/** Indentation is no list. */
function hasDigits(bytes: Uint8Array, start: number, end: number): boolean {
  let digits = 0
  for (let at = start; at < end && digits < SHORTEST_LIST; at++)
    if ((CLASSES[bytes[at]!]! & HEXADECIMAL) !== 0) digits++
  return digits === SHORTEST_LIST
}
