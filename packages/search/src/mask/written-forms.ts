import { isSearchable } from '@mappa/core/values/encodings'

/**
 * A secret as programs print it, beside what every leak check looks for: other ways of percent-encoding, base64 with its padding and in
 * lines, quoted for a shell, for Python, for XML, and as JSON in JSON.
 *
 * @param text the value
 * @returns texts of one character, up to U+00FF, for each byte; none for a value that can't be told apart from other text
 */
export function listWrittenForms(text: string): readonly string[] {
  if (!isSearchable(text)) return []
  const forms = [...listPercentForms(text), ...listBase64Forms(text), ...listByteForms(text), ...listQuotedForms(text)]
  return [...new Set(forms)]
    .map((each) => Buffer.from(each).toString('latin1'))
    .filter((each) => each.length >= SHORTEST)
}

/** The last line of a text in base64 may hold less than can be told apart. */
const SHORTEST = 8

/** Programs differ in what they leave as it is, in how they write a blank, and in the case of the digits. */
function listPercentForms(text: string): readonly string[] {
  const whole = encodeURIComponent(text)
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

/** How many characters a line of base64 has, as programs print it: RFC 2045 (MIME) and RFC 7468 (PEM). */
const LINE_WIDTHS = [76, 64]

function listBase64Forms(text: string): readonly string[] {
  const bytes = Buffer.from(text)
  const digits = bytes.toString('base64')
  const lines = LINE_WIDTHS.filter((width) => digits.length > width).flatMap(
    (width) => digits.match(new RegExp(`.{1,${width}}`, 'g')) ?? [],
  )
  const wide = Buffer.from(text, 'utf16le').toString('base64')
  return [digits, bytes.toString('base64url'), wide, Buffer.from(digits).toString('base64'), ...lines]
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
  return [...lists, printed.join(' '), bytes.join(','), bytes.join(', '), escaped, escaped.replaceAll("'", "\\'")]
}

function escapeByte(byte: number): string {
  if (byte === 92) return '\\\\'
  return byte >= 32 && byte < 127 ? String.fromCharCode(byte) : `\\x${byte.toString(16).padStart(2, '0')}`
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
