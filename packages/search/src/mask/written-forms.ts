import { toWellFormed } from '@mappa/core/text/well-formed'
import { isSearchable, listBase64Digits } from '@mappa/core/values/encodings'

/**
 * A secret as programs print it, beside what every leak check looks for: other ways of percent-encoding, base64 with its padding, of UTF-16 and
 * twice, as numbers, in escapes, quoted for a shell, for Python, for XML, and as JSON in JSON.
 *
 * @param text the value
 * @returns texts of one character, up to U+00FF, for each byte; none for a value that can't be told apart from other text
 */
export function listWrittenForms(text: string): readonly string[] {
  if (!isSearchable(text)) return []
  const forms = [
    ...listPercentForms(text),
    ...listBase64Forms(text),
    ...listByteForms(text),
    ...listQuotedForms(text),
    ...listEscapedForms(text),
  ]
  return [...new Set(forms)]
    .map((each) => Buffer.from(each).toString('latin1'))
    .concat(listWideForms(text))
    .filter((each) => each.length >= SHORTEST)
}

/** The last line of a text in base64 may hold less than can be told apart. */
const SHORTEST = 8

/** In UTF-32 of both orders. */
function listWideForms(text: string): readonly string[] {
  const points = [...text].map((each) => each.codePointAt(0)!)
  const bytes = Buffer.alloc(points.length * 4)
  for (const [at, point] of points.entries()) bytes.writeUInt32LE(point, at * 4)
  return [bytes.toString('latin1'), Buffer.from(bytes).swap32().toString('latin1')]
}

/** Programs differ in what they leave as it is, in how they write a blank, and in the case of the digits. */
function listPercentForms(text: string): readonly string[] {
  const whole = encodeURIComponent(toWellFormed(text))
  const strict = whole.replace(/[!'()*~]/g, (each) => `%${each.charCodeAt(0).toString(16).toUpperCase()}`)
  const bases = [
    whole,
    strict,
    encodeURI(text),
    strict.replaceAll('%7E', '~'),
    new URLSearchParams({ '': text }).toString().slice(1),
  ].flatMap((each) => [each, each.replaceAll('%2F', '/')])
  const spelled = bases.flatMap((each) => [each, each.replaceAll('%20', '+')])
  return spelled.flatMap((each) => [each, each.replace(/%[0-9A-F]{2}/g, (digits) => digits.toLowerCase())])
}

/** With its padding; of UTF-16, as shells of Windows take it; and twice. Lines of any width are found without being listed. */
function listBase64Forms(text: string): readonly string[] {
  const bytes = Buffer.from(text)
  const twice = listBase64Digits([...bytes]).flatMap((digits) => listBase64Digits([...Buffer.from(digits)]))
  const wide = listBase64Digits([...Buffer.from(text, 'utf16le')])
  return [bytes.toString('base64'), bytes.toString('base64url'), ...wide, ...twice]
}

/** Node prints so many bytes of a buffer. */
const PRINTED_BYTES = 50

/** Bytes as programs print them: pairs of digits, numbers, and escapes of what is no ASCII. */
function listByteForms(text: string): readonly string[] {
  const bytes = Buffer.from(text)
  const pairs = bytes.toString('hex').match(/../g) ?? []
  const printed = pairs.slice(0, PRINTED_BYTES)
  const escaped = Array.from(bytes, escapeByte).join('')
  const lists = [pairs, pairs.map((each) => each.toUpperCase())].flatMap((each) => [each.join(' '), each.join(':')])
  const numbers = [[...bytes], [...text].map((each) => each.codePointAt(0)!), pairs.map((each) => `0x${each}`)]
  const listed = numbers.flatMap((each) => BETWEEN_NUMBERS.map((between) => each.join(between)))
  return [...lists, printed.join(' '), ...listed, escaped, escaped.replaceAll("'", "\\'")]
}

/** What stands between numbers that programs print. */
const BETWEEN_NUMBERS = [',', ', ', ' ', '\n', ',\n', ',\n  ', ',\n    ', ',\n\t']

function escapeByte(byte: number): string {
  if (byte === 92) return '\\\\'
  return byte >= 32 && byte < 127 ? String.fromCharCode(byte) : `\\x${byte.toString(16).padStart(2, '0')}`
}

/** Each character as an escape of JavaScript, Python or XML, whatever it is. */
function listEscapedForms(text: string): readonly string[] {
  const points = [...text].map((each) => each.codePointAt(0)!)
  const units = Array.from({ length: text.length }, (_, at) => text.charCodeAt(at))
  const toHex = (number: number, digits: number) => number.toString(16).padStart(digits, '0')
  const join = (numbers: readonly number[], write: (number: number) => string) => numbers.map(write).join('')
  const forms = [
    join([...Buffer.from(text)], (each) => `\\x${toHex(each, 2)}`),
    join(points, (each) => (each < 256 ? `\\x${toHex(each, 2)}` : String.fromCodePoint(each))),
    join([...Buffer.from(text)], (each) => `\\${each.toString(8).padStart(3, '0')}`),
    join(units, (each) => `\\u${toHex(each, 4)}`),
    join(points, (each) => `\\u{${toHex(each, 1)}}`),
    join(points, (each) => `&#x${toHex(each, 1)};`),
  ]
  return [
    ...forms,
    ...forms.map((each) => each.replace(/[0-9a-f]+(?=[\\;}&]|$)/g, (digits) => digits.toUpperCase())),
    join(points, (each) => `&#${each};`),
  ]
}

function listQuotedForms(text: string): readonly string[] {
  const escapeJson = (each: string) => JSON.stringify(each).slice(1, -1)
  const escapeToAscii = (each: string) =>
    each.replace(/[\u007f-\uffff]/g, (unit) => `\\u${unit.charCodeAt(0).toString(16).padStart(4, '0')}`)
  const escaped = text.replaceAll('\\', '\\\\').replaceAll('\n', '\\n').replaceAll('\r', '\\r').replaceAll('\t', '\\t')
  const xml = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
  const apostrophes = ['&#39;', '&#x27;', '&apos;']
  return [
    escapeToAscii(escapeJson(text)),
    escapeJson(escapeJson(text)),
    escapeJson(escapeToAscii(escapeJson(text))),
    escaped,
    escaped.replaceAll("'", "\\'"),
    escaped.replaceAll('"', '\\"'),
    text.replaceAll("'", "'\\''"),
    text.replaceAll("'", `'"'"'`),
    text.replace(/["\\$`]/g, '\\$&'),
    xml,
    ...apostrophes.map((each) => xml.replaceAll("'", each).replaceAll('"', '&quot;')),
    xml.replaceAll('"', '&#34;').replaceAll("'", '&#39;'),
  ]
}
