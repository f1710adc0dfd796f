import { resolveEscape } from './unescape.ts'

/** The next spot in a text from a place on; `null` where there is none. */
export type FindSpot = (text: string, from: number) => RegExpExecArray | null

/**
 * Prepares to find what may be within a searched text in code, written in another way than as it stands: joints between two pieces, from quote
 * to quote, and escapes, those of one letter in the first group of the match. Also where a file within an address begins.
 *
 * @param bytes all that are in the searched texts
 * @param pairs by two neighbours: 1 for those that are in one of them
 */
export function makeSpotFinder(bytes: ReadonlySet<number>, pairs: Uint8Array): FindSpot {
  const spots = toSpots(bytes)
  const own = new Uint8Array(256)
  for (const byte of [...bytes, ...PIECE_ENDS]) own[byte] = 1
  const beginnings = new RegExp(BEGINNINGS)
  return (text, from) => {
    beginnings.lastIndex = from
    // Only one character is taken each time, and nothing is made of it: most of them begin nothing.
    while (beginnings.test(text)) {
      const at = beginnings.lastIndex - 1
      if (isQuote(text.charCodeAt(at)) && !(own[text.charCodeAt(at - 1)] === 1 && mayJoin(text, at, pairs))) continue
      spots.lastIndex = at
      const match = spots.exec(text)
      if (match !== null) return match
    }
    return null
  }
}

/** What begins a spot, as far as that can be said in no time. */
const BEGINNINGS = /["'`](?=[\s+,)\]./\\])|\\|\$(?=\{)|&(?=[#aglqAGLQ])|%(?=[\da-fA-F])|;(?=base64,)/g

const toCodes = (characters: string) => [...characters].map((each) => each.charCodeAt(0))
const [BACKSLASH, SLASH, STAR, DOT, COMMA, PLUS] = [92, 47, 42, 46, 44, 43]
/** A piece may be empty, or end with an escape. */
const PIECE_ENDS = toCodes('"\'`\\')

/**
 * False where a quote ends a piece that surely is not joined to another one, or to one that is in no searched text beside it. Most lists of
 * texts are settled here, which an expression would take ten times as long for.
 */
function mayJoin(text: string, quote: number, pairs: Uint8Array): boolean {
  let at = skipBlanksAndComments(text, quote + 1)
  const joint = text.charCodeAt(at)
  if (joint === DOT) return text.startsWith('.concat(', at)
  if (joint !== COMMA && joint !== PLUS) return joint === BACKSLASH
  at = skipBlanksAndComments(text, at + 1)
  if (!isQuote(text.charCodeAt(at))) return text.charCodeAt(at) === BACKSLASH
  const [before, behind] = [text.charCodeAt(quote - 1), text.charCodeAt(at + 1)]
  if (!isPlain(before) || !isPlain(behind) || text.charCodeAt(quote - 2) === BACKSLASH) return true
  return pairs[before * 256 + behind] === 1
}

/** The place behind blanks and comments. */
function skipBlanksAndComments(text: string, from: number): number {
  let at = from
  for (;;) {
    while (isBlank(text.charCodeAt(at))) at++
    if (text.charCodeAt(at) !== SLASH) return at
    const next = text.charCodeAt(at + 1)
    if (next !== STAR && next !== SLASH) return at
    const end = next === STAR ? text.indexOf('*/', at + 2) + 2 : text.indexOf('\n', at + 2)
    // One that does not end is none.
    if (end < at + 2) return at
    at = end
  }
}

/** White space, and brackets around pieces and lists. */
const isBlank = (code: number) =>
  code === 32 || (code >= 9 && code <= 13) || code === 0xa0 || code === 40 || code === 41 || code === 91 || code === 93
const isQuote = (code: number) => code === 34 || code === 39 || code === 96
const isPlain = (code: number) => code !== BACKSLASH && !isQuote(code)

const QUOTE = '["\'`]'
/** One backslash, three in code within JSON, seven in code within that. Bounded, so that no text takes the search long. */
const BACKSLASHES = '\\\\{1,9}'
/** White space and brackets, white space also where it is itself escaped. To count costs time, so first there is a look whether there is anything to count. */
const BLANKS = `(?=[\\s\\\\()[\\]])(?:[\\s()[\\]]|${BACKSLASHES}[nrt]){0,200}`
const COMMENT = '\\/[*/]'

/** Something, or something behind white space. */
const allowSpaces = (pattern: string) => `(?:${pattern}|${BLANKS}(?:${pattern}))`

/**
 * As much as possible is left out by its neighbours here, since a match costs more than a hundred bytes that are none. Escapes
 * may have several backslashes, as in code within JSON within code.
 *
 * @param bytes all that are in the texts
 */
function toSpots(bytes: ReadonlySet<number>): RegExp {
  const has = (test: (byte: number) => boolean) => [...bytes].some(test)
  const own = `["'\`\\\\${[...bytes].map(escapeClass).join('')}]`
  const letters = Array.from({ length: 256 }, (_, letter) => letter)
    .filter((letter) => bytes.has(resolveEscape(letter)) && !'xu\r\n"\'`\\'.includes(String.fromCharCode(letter)))
    .map(escapeClass)
  const digits = has((byte) => byte < 32) ? '[0-7]' : '[2-7]'
  const number = has((byte) => byte > 127) ? '[xu]' : `(?:x${digits}|u00${digits}|u\\{)`
  const isQuoted = has((byte) => '"\'`'.includes(String.fromCharCode(byte)))
  const method = `\\)?\\.concat\\(`
  const nested = allowSpaces(`\\\\*${QUOTE}|${COMMENT}`)
  const goesOn = allowSpaces(`[+,]${nested}|${method}${nested}|${COMMENT}`)
  const piece = allowSpaces(`\\\\*${QUOTE}(?=${own})|${COMMENT}`)
  const alternatives = [
    `${QUOTE}(?<=${own}${QUOTE})${allowSpaces(`[+,]${piece}|${method}${piece}|${COMMENT}`)}`,
    ...(bytes.has(92) ? ['\\\\\\\\'] : []),
    `${BACKSLASHES}${number}`,
    // A line that goes on.
    '\\\\[\\r\\n]|\\\\{3}[nr]',
    // In octal digits.
    `${BACKSLASHES}[0-3]?[0-7]{2}`,
    `(${BACKSLASHES}[${letters.join('')}])`,
    // What is escaped may end a piece in its turn.
    `${BACKSLASHES}${QUOTE}${isQuoted ? '' : goesOn}`,
    `\\$\\{${allowSpaces('\\\\*["\'`/]')}`,
    '&(?:#|amp|lt|gt|quot|apos|AMP|LT|GT|QUOT)',
    '%[\\da-fA-F]{2}',
    ';base64,',
  ]
  return new RegExp(alternatives.join('|'), 'y')
}

const escapeClass = (byte: number) => `\\x${byte.toString(16).padStart(2, '0')}`
