import { binary, utf8 } from '@mappa/core/values/bytes'
import { unescapeAndConcatenate } from './unescape.ts'

/** One encoding to read what a page is made of. */
export interface Decoding {
  /** In words, with a comma before them. */
  readonly encoding: string
  readonly bytes: Uint8Array
}

/**
 * Reads code, data or a page in the ways in which a value can be written in it: with escapes resolved and pieces joined, twice
 * where that is needed, since source maps hold code in JSON; with references of HTML; and with percent-encoding (RFC 3986).
 *
 * @param bytes a text in UTF-8
 * @returns what is different from the text as it stands
 */
export function* listDecodings(bytes: Uint8Array): Generator<Decoding> {
  const plain = [bytes]
  for (let round = 0; round < 2; round++) {
    const { bytes: resolved, mayHoldMore } = unescapeAndConcatenate(plain.at(-1)!)
    yield { encoding: ', in pieces or escaped', bytes: resolved }
    plain.push(resolved)
    if (!mayHoldMore) break
  }
  for (const each of plain) yield* decodeMarks(each)
}

/** A text with its percent-encoding or its references of HTML resolved. */
function* decodeMarks(bytes: Uint8Array): Generator<Decoding> {
  const { percent, references } = findMarks(bytes)
  if (!percent && !references) return
  const text = latin1(bytes)
  const decoded = percent ? resolvePercent(text) : text
  if (percent) yield { encoding: ', percent-encoded', bytes: toBytes(decoded) }
  // A picture within an address is HTML in percent-encoding.
  for (const one of new Set([text, decoded]))
    if (REFERENCE.test(one)) yield { encoding: ', escaped for HTML', bytes: toBytes(resolveReferences(one)) }
}

/** Whether there may be percent-encoding or references in a text. Looked up in bytes, since nearly always there are none. */
function findMarks(bytes: Uint8Array): { percent: boolean; references: boolean } {
  let percent = false
  let references = false
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at]
    if (byte === 37) percent ||= isHex(bytes[at + 1]) && isHex(bytes[at + 2])
    else if (byte === 38) references ||= isReference(bytes, at + 1)
  }
  return { percent, references }
}

const isHex = (byte = 0) => (byte >= 48 && byte <= 57) || (byte >= 65 && byte <= 70) || (byte >= 97 && byte <= 102)
const NAMED_REFERENCES = ['amp', 'lt', 'gt', 'quot', 'apos'].map((name) => [...name].map((each) => each.charCodeAt(0)))

/** True behind a `&` that begins a reference, in letters of either case. */
const isReference = (bytes: Uint8Array, at: number) =>
  bytes[at] === 35 ||
  NAMED_REFERENCES.some((name) => name.every((byte, index) => ((bytes[at + index] ?? 0) | 32) === byte))

const REFERENCE = /&(?:#\d|#x|amp|lt|gt|quot|apos)/i
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
  for (let at = 0; at < bytes.length; at += 8192)
    text += String.fromCharCode.apply(null, bytes.subarray(at, at + 8192) as unknown as number[])
  return text
}

function toBytes(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length)
  for (let at = 0; at < text.length; at++) bytes[at] = text.charCodeAt(at)
  return bytes
}
