import { decodeWide } from '../read/wide-text.ts'

/** A stretch of a text that is written in another way, as the bytes that it stands for. */
export interface DecodedRegion {
  /** How it is written, in words, with a comma before them. */
  readonly encoding: string
  readonly bytes: Buffer
}

/** Finds what of a text is written in one way. A new way is one such function. */
type RegionReader = (text: string) => readonly DecodedRegion[]

/** What may stand before a line that goes on: blanks, signs of comments and quotations, quotes of texts that are joined. */
const MARGIN = '(?:[ \\t>#*|+"\',;:-]|//)*'
/** The end of a line, also of one that is escaped. */
const LINE_END = `["'\`]?[ \\t]*(?:\\\\|\\\\r)?(?:\\r?\\n|\\\\r\\\\n|\\\\n)${MARGIN}`

/** The rest of a run that goes on in the next line, and in those behind it. */
const MORE_LINES = new RegExp(`(?:${LINE_END}[A-Za-z0-9+/_-]{2,})*`, 'y')
const LINE_ENDS = new RegExp(LINE_END, 'g')
/** A run of fewer digits is taken for a word. */
const SHORTEST_RUN = 16

/** Whether a byte is a digit of base64, of either alphabet. */
const IS_DIGIT = new Uint8Array(256)
for (const digit of 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/_-')
  IS_DIGIT[digit.charCodeAt(0)] = 1

/** Base64 (RFC 4648), in one line or in several, from each of the four places at which it may begin. */
const readBase64: RegionReader = (text) => {
  const found: DecodedRegion[] = []
  // A run covers at least one of the places at this distance, so only there it is looked whether one is.
  for (let at = SHORTEST_RUN - 1; at < text.length; at += SHORTEST_RUN) {
    if (IS_DIGIT[text.charCodeAt(at)] !== 1) continue
    let start = at
    while (start > 0 && IS_DIGIT[text.charCodeAt(start - 1)] === 1) start--
    let end = at + 1
    while (end < text.length && IS_DIGIT[text.charCodeAt(end)] === 1) end++
    if (end - start >= SHORTEST_RUN) {
      MORE_LINES.lastIndex = end
      end += MORE_LINES.exec(text)![0].length
      const digits = text.slice(start, end).replace(LINE_ENDS, '')
      for (let phase = 0; phase < 4; phase++)
        found.push({ encoding: ', in base64', bytes: Buffer.from(digits.slice(phase), 'base64') })
    }
    // On to the place behind the run that is one of those looked at.
    at += Math.floor((end - 1 - at) / SHORTEST_RUN) * SHORTEST_RUN
  }
  return found
}

const HEXADECIMAL = /[0-9a-fA-F]{2}(?:[\s:.-]{0,80}[0-9a-fA-F]{2}){7,}/g

/** Pairs of hexadecimal digits, with or without something between them. */
const readHexadecimal: RegionReader = (text) =>
  [...text.matchAll(HEXADECIMAL)].flatMap(([run]) => {
    const digits = run.replace(/[^0-9a-f]/gi, '')
    return [0, 1].map((phase) => ({
      encoding: ', in hexadecimal digits',
      bytes: Buffer.from(digits.slice(phase, phase + ((digits.length - phase) & ~1)), 'hex'),
    }))
  })

const NUMBERS = /(?:0x[0-9a-fA-F]{1,6}|\d{1,7})(?:[\s,;]{1,80}(?:0x[0-9a-fA-F]{1,6}|\d{1,7})){5,}/g
/** Texts are made of so many numbers at once. */
const CHUNK = 4096

/** A list of numbers, one for each byte or each character: `String.fromCharCode(110, 105)`, `[0x6e, 0x69]`. */
const readNumbers: RegionReader = (text) =>
  [...text.matchAll(NUMBERS)].flatMap(([run]) => {
    const numbers = run.split(/[\s,;]+/).map(Number)
    const encoding = ', as numbers'
    if (numbers.every((each) => each < 128)) return { encoding, bytes: Buffer.from(numbers) }
    const bytes = numbers.every((each) => each < 256) ? [{ encoding, bytes: Buffer.from(numbers) }] : []
    return numbers.some((each) => each > 0x10ffff) ? bytes : [...bytes, { encoding, bytes: spell(numbers) }]
  })

/** The text that numbers of characters are, whether those of two halves are given as one or as two. */
function spell(numbers: readonly number[]): Buffer {
  let text = ''
  for (let at = 0; at < numbers.length; at += CHUNK) text += String.fromCodePoint(...numbers.slice(at, at + CHUNK))
  return Buffer.from(text)
}

const READERS: readonly RegionReader[] = [readBase64, readHexadecimal, readNumbers]

/** What is written in another way within what is, is looked for so deep. */
const MAX_DEPTH = 2

/**
 * What of a text is written in base64, in hexadecimal digits or as numbers, decoded; also within each other, and as text of two bytes for
 * each character.
 *
 * @param text one character, up to U+00FF, for each byte
 */
export function findDecodedRegions(text: string, depth = 0): readonly DecodedRegion[] {
  const regions = READERS.flatMap((read) => read(text))
  const wide = regions.flatMap(({ encoding, bytes }) => {
    const found = decodeWide(bytes)
    return found === null ? [] : { encoding: `${encoding}, in ${found.encoding}`, bytes: found.bytes }
  })
  if (depth + 1 >= MAX_DEPTH) return [...regions, ...wide]
  const inner = regions
    .filter(({ bytes }) => isText(bytes))
    .flatMap(({ encoding, bytes }) =>
      findDecodedRegions(bytes.toString('latin1'), depth + 1).map((each) => ({
        encoding: `${encoding}${each.encoding}`,
        bytes: each.bytes,
      })),
    )
  return [...regions, ...wide, ...inner]
}

/** True for bytes of which hardly any is no letter: what is not text has nothing written in it. */
function isText(bytes: Buffer): boolean {
  if (bytes.length === 0) return false
  let odd = 0
  for (const byte of bytes) if (byte < 9 || byte > 126 || (byte > 13 && byte < 32)) odd++
  return odd * 20 <= bytes.length
}

/** Lines without their margins, for texts of several lines that were indented or quoted. */
export function withoutMargins(text: string): string {
  return text.replace(/\r?\n[ \t>#*|+-]*/g, '\n')
}
