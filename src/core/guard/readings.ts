import { binary, utf8 } from './bytes.ts'
import { resolvePieces } from './pieces.ts'

/** One way to read what a page is made of. */
export interface Reading {
  /** In words, with a comma before them. */
  readonly way: string
  readonly bytes: Uint8Array
}

/** Where something is escaped or put together, or looks like it. */
const SPOTS =
  /\\|["'`]\s*(?:[+,]\s*(?:["'`]|\/[*/])|\)?\.concat\(|\/[*/]|\})|\$\{\s*["'`]|&(?:#|amp|lt|gt|quot|apos|AMP|LT|GT|QUOT)|%[\da-fA-F]{2}/g
/** What may lie between two pieces, in characters, beside the pieces. */
const LONGEST_JOINT = 256
/** Stands between two parts that do not belong together. */
const GAP = '\0'

/**
 * The parts of a text that can be read in another way than as they stand. In most files these are few, and a value that
 * touches none of them is found without reading anything anew.
 *
 * @param text one character, up to U+00FF, for each byte
 * @param longest the length of the longest text that is looked for
 */
export function partsToRead(text: string, longest: number): string {
  const reach = longest + LONGEST_JOINT
  const parts: string[] = []
  let from = 0
  let to = 0
  for (const { index } of text.matchAll(SPOTS)) {
    if (index - reach > to || to === 0) {
      if (to > 0) parts.push(text.slice(from, to))
      from = Math.max(0, index - reach)
    }
    to = index + reach
  }
  if (to > 0) parts.push(text.slice(from, to))
  return parts.join(GAP)
}

/**
 * Reads code, data or a page in the ways in which a value can be written in it: with escapes resolved and pieces joined, twice
 * where that is needed, since source maps hold code in JSON; with references of HTML; and with percent-encoding (RFC 3986).
 *
 * @param bytes a text in UTF-8
 * @returns what is different from the text as it stands
 */
export function* readingsOf(bytes: Uint8Array): Generator<Reading> {
  const plain = [bytes]
  for (let round = 0; round < 2; round++) {
    const { bytes: resolved, mayHoldMore } = resolvePieces(plain.at(-1)!)
    yield { way: ', in pieces or escaped', bytes: resolved }
    plain.push(resolved)
    if (!mayHoldMore) break
  }
  for (const each of plain) {
    const text = latin1(each)
    const percent = PERCENT.test(text) ? resolvePercent(text) : null
    if (percent !== null) yield { way: ', percent-encoded', bytes: bytesOf(percent) }
    // A picture within an address is HTML in percent-encoding.
    for (const one of percent === null ? [text] : [text, percent])
      if (REFERENCE.test(one)) yield { way: ', escaped for HTML', bytes: bytesOf(resolveReferences(one)) }
  }
}

const REFERENCE = /&(?:#\d|#x|amp|lt|gt|quot|apos)/i
const PERCENT = /%[\da-f]{2}/i
const NAMES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/** WHATWG HTML, 13.1.4; of the names, those that a program writes when it escapes a text. */
function resolveReferences(text: string): string {
  return text.replace(
    /&(?:#x([\da-f]{1,6})|#(\d{1,7})|(amp|lt|gt|quot|apos));?/gi,
    (whole, hex?: string, decimal?: string, name?: string) => {
      if (name !== undefined) return NAMES[name.toLowerCase()]!
      const point = hex === undefined ? Number(decimal) : Number.parseInt(hex, 16)
      const isCharacter = point <= 0x10ffff && (point < 0xd800 || point > 0xdfff)
      return isCharacter ? binary(utf8(String.fromCodePoint(point))) : whole
    },
  )
}

function resolvePercent(text: string): string {
  return text.replace(/%([\da-f]{2})/gi, (_, digits: string) => String.fromCharCode(Number.parseInt(digits, 16)))
}

/** One character, up to U+00FF, for each byte. */
function latin1(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return text
}

function bytesOf(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length)
  for (let at = 0; at < text.length; at++) bytes[at] = text.charCodeAt(at)
  return bytes
}
