import { toWellFormed } from '../text/well-formed.ts'
import { binary, utf8 } from './bytes.ts'

/** One way in which a value can stand somewhere. */
export interface Encoded {
  /** How it is encoded, as text; empty where it stands as it is. */
  readonly encoding: string
  readonly text: string
}

/** Shorter values, in characters, stand in too many places by chance. */
const SHORTEST = 8

/** What stands in pages for other reasons, and what it is called. */
const COMMON: readonly (readonly [what: string, pattern: RegExp])[] = [
  ['a plain word', /^[a-z]{1,15}$/i],
  [
    'an address of the machine itself',
    /^(?:(?:https?|wss?):\/\/)?(?:localhost|127\.0\.0\.1|0\.0\.0\.0|\[::1?\])(?::\d{1,5})?\/?$/i,
  ],
  [
    'a common name of a file',
    /^\.?\/?[a-z-]{1,20}\.(?:html?|[cm]?js|css|json|png|jpe?g|gif|svg|ico|txt|xml|md|webmanifest)$/i,
  ],
  ['a path of one word', /^(?=.*\/)\.{0,2}\/?[a-z-]{1,20}\/?$/i],
  ['a type of data', /^(?:text|application|image|audio|video|font|multipart)\/[a-z.+-]+$/i],
  [
    'a time zone',
    /^(?:Africa|America|Antarctica|Asia|Atlantic|Australia|Europe|Indian|Pacific|Etc)\/[A-Za-z_+-]+(?:\/[A-Za-z_]+)?$/,
  ],
  [
    'an address of a standard',
    /^https?:\/\/(?:www\.w3\.org|schemas\.(?:xmlsoap|openxmlformats)\.org|(?:json-)?schema\.org|purl\.org|xmlns\.com)\//i,
  ],
]

/** Why a value can't be told apart from other text, as text; `null` where it can. */
export function explainUnsearchable(value: string): string | null {
  if (value.length < SHORTEST || new Set(value).size < 4) return 'too short to be told apart'
  return COMMON.find(([, pattern]) => pattern.test(value))?.[0] ?? null
}

/** True for a value that can be told apart from other text: long enough, of more than a few characters, and nothing common. */
export function isSearchable(value: string): boolean {
  return explainUnsearchable(value) === null
}

/**
 * Every text in which a value can hide: as it stands, escaped for JSON, in percent-encoding (RFC 3986), in hexadecimal
 * digits, and in base64 (RFC 4648) at each of the three places it can have among other bytes.
 *
 * @param value a value for which {@link isSearchable} holds
 * @returns texts of characters up to U+00FF, one for each byte of UTF-8
 */
export function listEncodings(value: string): readonly Encoded[] {
  const bytes = utf8(value)
  const found: Encoded[] = [{ encoding: '', text: binary(bytes) }]
  const add = (encoding: string, text: string) => {
    if (!found.some((each) => each.text === text)) found.push({ encoding, text })
  }
  if (!/^[\0-\x7f]*$/.test(value)) addUnicodeForms(value, add)
  add(', escaped for JSON', binary(utf8(JSON.stringify(value).slice(1, -1))))
  add(', percent-encoded', encodeURIComponent(toWellFormed(value)))
  for (const text of new Set([value, JSON.stringify(value).slice(1, -1)])) {
    add(', in UTF-16', toUnits(text, [0, 8]))
    add(', in UTF-16', toUnits(text, [8, 0]))
  }
  addDigits(bytes, add)
  return found
}

/**
 * Every text in which bytes can hide: as they are, in hexadecimal digits, and in base64 at each of the three places.
 *
 * @returns as {@link listEncodings}
 */
export function listByteEncodings(bytes: readonly number[]): readonly Encoded[] {
  const found: Encoded[] = [{ encoding: ', as bytes', text: binary(bytes) }]
  addDigits(bytes, (encoding, text) => found.push({ encoding, text }))
  return found
}

function addDigits(bytes: readonly number[], add: (encoding: string, text: string) => void): void {
  add(', in hexadecimal digits', hex(bytes))
  add(', in hexadecimal digits', hex(bytes).toUpperCase())
  for (const text of new Set(listBase64Digits(bytes))) add(', in base64', text)
}

/** Letters with accents in one character or in two (Unicode, UAX 15), and in one byte each (ISO 8859-1). */
function addUnicodeForms(value: string, add: (encoding: string, text: string) => void): void {
  for (const form of ['NFC', 'NFD'] as const) add(`, in ${form}`, binary(utf8(value.normalize(form))))
  const composed = value.normalize('NFC')
  if (/^[\0-\xff]*$/.test(composed)) add(', in Latin-1', composed)
}

/** Two bytes for each unit of a text (RFC 2781), in the order of the shifts that take them out. */
function toUnits(text: string, shifts: readonly [number, number]): string {
  return Array.from({ length: text.length }, (_, at) =>
    shifts.map((shift) => String.fromCharCode((text.charCodeAt(at) >> shift) & 0xff)).join(''),
  ).join('')
}

function hex(bytes: readonly number[]): string {
  return bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'

/**
 * The digits of base64 (RFC 4648) that depend on some bytes alone, at each of the three places that they can have among others, in both
 * alphabets.
 */
export function listBase64Digits(bytes: readonly number[]): readonly string[] {
  return [0, 1, 2].flatMap((offset) => {
    const text = encodeBase64(bytes, offset)
    return [text, text.replaceAll('+', '-').replaceAll('/', '_')]
  })
}

/** The digits that depend on the value alone where it begins `offset` bytes behind a multiple of three. */
function encodeBase64(bytes: readonly number[], offset: number): string {
  const first = Math.ceil((offset * 8) / 6)
  const last = Math.floor(((offset + bytes.length) * 8) / 6)
  let text = ''
  for (let digit = first; digit < last; digit++) {
    const bit = digit * 6
    const at = (bit >> 3) - offset
    // A digit takes its six bits from two bytes.
    text += DIGITS[((((bytes[at] ?? 0) << 8) | (bytes[at + 1] ?? 0)) >> (10 - (bit & 7))) & 63]
  }
  return text
}
