import { SIMPLE_ESCAPES } from './decode/unescape.ts'

/** What is known of the texts that are looked for, together. */
export interface SearchIndex {
  /** The length of the longest, in characters. */
  readonly longest: number
  /**
   * Matches what may be within one of them in code, written in another way than as it stands: joints between two pieces, from quote
   * to quote, and escapes, those of one letter in the first group. Also where a file within an address begins.
   */
  readonly spots: RegExp
  /** By two neighbours: 1 for those that are in one of the texts. */
  readonly pairs: Uint8Array
  /** By three neighbours, some of which share an entry: 1 for those that may be in one. */
  readonly triples: Uint8Array
}

/**
 * Takes in what is looked for.
 *
 * @param texts each of at least three characters, one for each byte
 */
export function buildSearchIndex(texts: readonly string[]): SearchIndex {
  const bytes = new Set<number>()
  const [pairs, triples] = [new Uint8Array(65_536), new Uint8Array(65_536)]
  let longest = 0
  for (const text of texts) {
    longest = Math.max(longest, text.length)
    // What comes before a text is read as NUL, which adds entries and takes none away.
    let [first, second] = [0, 0]
    for (let at = 0; at < text.length; at++) {
      const third = text.charCodeAt(at)
      bytes.add(third)
      pairs[pairKey(second, third)] = 1
      triples[tripleKey(first, second, third)] = 1
      first = second
      second = third
    }
  }
  return { longest, spots: toSpots(bytes), pairs, triples }
}

/** The entry of two neighbours. */
export const pairKey = (first: number, second: number) => first * 256 + second
/** The entry of three. */
export const tripleKey = (first: number, second: number, third: number) =>
  ((first * 961 + second * 31 + third) * 40_503) & 65_535
/** The byte that a letter stands for behind a backslash. */
export const resolveEscape = (letter: number) => SIMPLE_ESCAPES[String.fromCharCode(letter)] ?? letter

const QUOTE = '["\'`]'
/** One backslash, three in code within JSON, seven in code within that. Bounded, so that no text takes the search long. */
const BACKSLASHES = '\\\\{1,9}'
/** White space, also where it is itself escaped. To count costs time, so first there is a look whether there is anything to count. */
const BLANKS = `(?=[\\s\\\\])(?:\\s|${BACKSLASHES}[nrt]){0,200}`
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
    `(${BACKSLASHES}[${letters.join('')}])`,
    // What is escaped may end a piece in its turn.
    `${BACKSLASHES}${QUOTE}${isQuoted ? '' : goesOn}`,
    `\\$\\{${allowSpaces('\\\\*["\'`/]')}`,
    '&(?:#|amp|lt|gt|quot|apos|AMP|LT|GT|QUOT)',
    '%[\\da-fA-F]{2}',
    ';base64,',
  ]
  return new RegExp(alternatives.join('|'), 'g')
}

const escapeClass = (byte: number) => `\\x${byte.toString(16).padStart(2, '0')}`
