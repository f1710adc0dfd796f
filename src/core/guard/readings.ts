import { binary, utf8 } from './bytes.ts'

/** One way to read a text in which a value may hide. */
export interface Reading {
  /** In words, with a comma before them; empty for the text as it stands. */
  readonly way: string
  readonly text: string
}

/**
 * Reads a text in each way in which code, data and pages can write a value: as it stands; with escapes of JavaScript and JSON
 * resolved and pieces that are put together joined, twice, since source maps hold code in JSON; with references of HTML; and
 * with percent-encoding (RFC 3986).
 *
 * @param text characters up to U+00FF, one for each byte of UTF-8; so are those of the readings
 */
export function readingsOf(text: string): readonly Reading[] {
  const found: Reading[] = [{ way: '', text }]
  const add = (way: string, reading: string): string => {
    if (found.every((each) => each.text !== reading)) found.push({ way, text: reading })
    return reading
  }
  const once = add(', in pieces or escaped', resolveEscapes(joinPieces(text)))
  const twice = add(', in pieces or escaped', resolveEscapes(joinPieces(once)))
  for (const each of new Set([once, twice])) {
    if (/&(?:#|amp|lt|gt|quot|apos)/.test(each)) add(', escaped for HTML', resolveReferences(each))
    if (/%[\da-f]{2}/i.test(each)) add(', percent-encoded', resolvePercent(each))
  }
  return found
}

/** What may stand between two pieces of a text: blanks and comments. */
const BETWEEN = '(?:\\s|/\\*[^*]*\\*+(?:[^/*][^*]*\\*+)*/|//[^\\n]*\\n)*'
/** The end of one piece and the beginning of the next: `"a" + "b"`, `["a", "b"]`, `"a".concat("b")`, `` `a${"b"}` ``. */
const JOINT = new RegExp(`["'\`]${BETWEEN}(?:\\)?\\.concat\\(|[+,])${BETWEEN}["'\`]`, 'g')
const INSERTED = new RegExp(`\\$\\{${BETWEEN}["'\`]|["'\`]${BETWEEN}\\}`, 'g')

function joinPieces(text: string): string {
  return text.replace(JOINT, '').replace(INSERTED, '')
}

const NAMED: Readonly<Record<string, string>> = { n: '\n', r: '\r', t: '\t', b: '\b', f: '\f', v: '\v', 0: '\0' }

/** ECMA-262, 12.9.4, and RFC 8259, 7. */
function resolveEscapes(text: string): string {
  if (!text.includes('\\')) return text
  return text.replace(
    /\\(?:u\{([\da-f]{1,6})\}|(u[\da-f]{4}(?:\\u[\da-f]{4})*)|x([\da-f]{2})|(\r?\n)|(.))/gi,
    (whole, point?: string, units?: string, byte?: string, lineEnd?: string, other?: string) => {
      if (point !== undefined) return characters(Number.parseInt(point, 16), whole)
      if (units !== undefined) {
        const codes = [...units.matchAll(/u([\da-f]{4})/gi)].map(([, digits]) => Number.parseInt(digits!, 16))
        return encoded(String.fromCharCode(...codes), whole)
      }
      if (byte !== undefined) return characters(Number.parseInt(byte, 16), whole)
      if (lineEnd !== undefined) return ''
      return NAMED[other!] ?? other!
    },
  )
}

const REFERENCES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/** WHATWG HTML, 13.1.4; of the names, those that a program writes when it escapes a text. */
function resolveReferences(text: string): string {
  return text.replace(
    /&(?:#x([\da-f]{1,6})|#(\d{1,7})|(amp|lt|gt|quot|apos));?/gi,
    (whole, hex?: string, decimal?: string, name?: string) => {
      if (name !== undefined) return REFERENCES[name.toLowerCase()]!
      return characters(hex === undefined ? Number(decimal) : Number.parseInt(hex, 16), whole)
    },
  )
}

function resolvePercent(text: string): string {
  return text.replace(/%([\da-f]{2})/gi, (_, digits: string) => String.fromCharCode(Number.parseInt(digits, 16)))
}

function characters(point: number, otherwise: string): string {
  return point <= 0x10ffff ? encoded(String.fromCodePoint(point), otherwise) : otherwise
}

/** A text as characters for its bytes; half a pair of surrogates has none. */
function encoded(text: string, otherwise: string): string {
  try {
    return binary(utf8(text))
  } catch {
    return otherwise
  }
}
