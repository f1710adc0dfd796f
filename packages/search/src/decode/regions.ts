import { findBase64, findRuns, type Runs } from './runs.ts'

/** A stretch of a text that is written in another way, as the bytes that it stands for. */
export interface DecodedRegion {
  /** How it is written, in words, with a comma before them. */
  readonly encoding: string
  readonly bytes: Buffer
}

/** Digits that stand for nothing but NUL, between runs that are decoded together. */
const BETWEEN = { base64: 'AAAA', hex: '0000' } as const
/** A run may begin with each of so many digits of a group. */
const PHASES = { base64: [0, 1, 2, 3], hex: [0, 1] } as const
/** Texts are made of so many numbers at once. */
const CHUNK = 4096

/**
 * All that a text has in base64, in hexadecimal digits or as numbers, decoded, also what is in base64 within that: texts to look through, with NUL
 * between what does not belong together. Hardly any of it is what somebody has encoded, so nobody asks yet what is where.
 *
 * @param text one character, up to U+00FF, for each byte
 */
export function decodeAll(text: string): readonly string[] {
  const { base64, hexadecimal, numbers } = findRuns(text)
  const once = [
    ...decodeTogether(base64, 'base64'),
    ...decodeTogether(hexadecimal, 'hex'),
    ...numbers.flatMap(spellBytes),
  ]
  const texts = once.map((each) => each.toString('latin1'))
  return [...texts, ...texts.flatMap(decodeTwice)]
}

/** What was encoded twice. */
function decodeTwice(text: string): readonly string[] {
  const base64 = findBase64(text)
  const both = [...decodeTogether(base64, 'base64'), ...decodeTogether(base64.filter(isHexadecimal), 'hex')]
  return both.map((each) => each.toString('latin1'))
}

/** Runs are made as long as whole groups, so that each begins where its first group does. */
function decodeTogether(runs: readonly string[], encoding: 'base64' | 'hex'): readonly Buffer[] {
  if (runs.length === 0) return []
  const between = BETWEEN[encoding]
  const joined = runs.map((run) => run + between.slice(run.length & 3) + between).join('')
  return PHASES[encoding].map((phase) => Buffer.from(joined.slice(phase), encoding))
}

/**
 * The same, each stretch by itself, for whoever has found something and asks how it is written.
 *
 * @param text one character, up to U+00FF, for each byte
 */
export function listDecodedRegions(text: string): readonly DecodedRegion[] {
  const regions = decodeRuns(findRuns(text))
  const inner = regions.flatMap(({ encoding, bytes }) => {
    const base64 = findBase64(bytes.toString('latin1'))
    const runs = { base64, hexadecimal: base64.filter(isHexadecimal), numbers: [] }
    return decodeRuns(runs).map((each) => ({ encoding: `${encoding}${each.encoding}`, bytes: each.bytes }))
  })
  return [...regions, ...inner]
}

const isHexadecimal = (run: string) => /^[0-9a-f]*$/i.test(run)

function decodeRuns({ base64, hexadecimal, numbers }: Runs): readonly DecodedRegion[] {
  const decode = (run: string, encoding: 'base64' | 'hex', how: string) =>
    PHASES[encoding].map((phase) => ({
      encoding: how,
      bytes: Buffer.from(run.slice(phase) + BETWEEN[encoding].slice((run.length - phase) & 3), encoding),
    }))
  return [
    ...base64.flatMap((run) => decode(run, 'base64', ', in base64')),
    ...hexadecimal.flatMap((run) => decode(run, 'hex', ', in hexadecimal digits')),
    ...numbers.flatMap(spellBytes).map((bytes) => ({ encoding: ', as numbers', bytes })),
  ]
}

/** What numbers are as bytes, and as characters. What is neither stands for nothing. */
function spellBytes(numbers: readonly number[]): readonly Buffer[] {
  const bytes = Buffer.from(numbers.map((each) => (each < 256 ? each : 0)))
  if (numbers.every((each) => each < 128)) return [bytes]
  const points = numbers.map((each) => (each > 0x10ffff ? 0 : each))
  let text = ''
  // The two halves of a character may be two numbers.
  for (let at = 0; at < points.length; at += CHUNK) text += String.fromCodePoint(...points.slice(at, at + CHUNK))
  return [bytes, Buffer.from(text)]
}

/** Lines without their margins, for texts of several lines that were indented or quoted. */
export function withoutMargins(text: string): string {
  return text.replace(/\r?\n[ \t>#*|+-]*/g, '\n')
}
