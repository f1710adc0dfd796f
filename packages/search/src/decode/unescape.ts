import { utf8 } from '@mappa/core/values/bytes'

/** What a text is when its escapes are resolved and its pieces joined. */
export interface Resolved {
  readonly bytes: Uint8Array
  /** True where what came out may hold escapes and pieces itself, as code within JSON does. */
  readonly mayHoldMore: boolean
}

const BACKSLASH = 92
const DOLLAR = 36
const OPEN = 123
const CLOSE = 125
const PLUS = 43
const COMMA = 44
/** 1 for what may be something else than itself. */
const SPECIAL = new Uint8Array(256)
for (const each of [BACKSLASH, DOLLAR, 34, 39, 96]) SPECIAL[each] = 1
/** Comments between two pieces that are longer, in bytes, are not looked through. */
const MAX_COMMENT = 200
const CONCAT = [...'.concat('].map((each) => each.charCodeAt(0))

/**
 * Resolves escapes of JavaScript and JSON (ECMA-262, 12.9.4; RFC 8259, 7), and joins the pieces of a text that code puts
 * together: `"a" + "b"`, `["a", "b"]`, `"a".concat("b")`, `` `a${"b"}` ``. What is no text in the code is joined too, which does
 * no harm to a search. One pass, since every file of a build goes through here.
 */
export function unescapeAndConcatenate(bytes: Uint8Array): Resolved {
  return new Unescaper(bytes).run()
}

class Unescaper {
  readonly #bytes: Uint8Array
  readonly #out: Uint8Array
  #length = 0
  #mayHoldMore = false
  /** True behind the beginning of an insertion in a template that holds a text, up to the end of that text. */
  #inserted = false

  constructor(bytes: Uint8Array) {
    this.#bytes = bytes
    this.#out = new Uint8Array(bytes.length)
  }

  run(): Resolved {
    const bytes = this.#bytes
    const out = this.#out
    let length = 0
    for (let at = 0; at < bytes.length; at++) {
      const byte = bytes[at]!
      // Most bytes stand for themselves, and are passed on without a look at anything else.
      if (SPECIAL[byte] === 0) out[length++] = byte
      else {
        this.#length = length
        at = this.#readSpecial(byte, at)
        length = this.#length
      }
    }
    this.#length = length
    return { bytes: this.#out.subarray(0, this.#length), mayHoldMore: this.#mayHoldMore }
  }

  // Each of these reads what begins at a place, and returns its last byte.

  #readSpecial(byte: number, at: number): number {
    if (byte === BACKSLASH) return this.#readEscape(at)
    if (isQuote(byte)) return this.#readQuote(at)
    if (this.#bytes[at + 1] === OPEN) return this.#readInsertion(at)
    this.#out[this.#length++] = DOLLAR
    return at
  }

  #readEscape(at: number): number {
    const { text, end } = readEscape(this.#bytes, at + 1)
    for (const each of text) this.#out[this.#length++] = each
    // White space that was escaped may stand between two pieces.
    if (text.length === 1) this.#mayHoldMore ||= text[0] === BACKSLASH || isQuote(text[0]) || isSpace(text[0])
    return end - 1
  }

  #readQuote(at: number): number {
    const next = skipJoint(this.#bytes, at + 1, this.#inserted)
    if (next < 0) {
      this.#out[this.#length++] = this.#bytes[at]!
      return at
    }
    this.#inserted &&= this.#bytes[next] !== CLOSE
    return next
  }

  #readInsertion(at: number): number {
    const next = skipBlanks(this.#bytes, at + 2)
    this.#inserted = isQuote(this.#bytes[next])
    if (this.#inserted) return next
    this.#out[this.#length++] = DOLLAR
    return at
  }
}

/** Pieces may be in brackets, and lists in lists. */
const isBracket = (byte = 0) => byte === 40 || byte === 41 || byte === 91 || byte === 93
const isSpace = (byte = 0) => byte === 32 || (byte >= 9 && byte <= 13)
const isQuote = (byte: number | undefined) => byte === 34 || byte === 39 || byte === 96

/** The last byte of a joint that begins behind a quote: the quote of the next piece, or the end of an insertion; -1 for none. */
function skipJoint(bytes: Uint8Array, from: number, inserted: boolean): number {
  let at = skipBlanks(bytes, from)
  if (bytes[at] === CLOSE && inserted) return at
  if (bytes[at] === PLUS || bytes[at] === COMMA) at++
  else {
    if (!CONCAT.every((byte, index) => bytes[at + index] === byte)) return -1
    at += CONCAT.length
  }
  at = skipBlanks(bytes, at)
  return isQuote(bytes[at]) ? at : -1
}

function skipBlanks(bytes: Uint8Array, from: number): number {
  let at = from
  for (;;) {
    const byte = bytes[at]
    if (isSpace(byte) || isBracket(byte)) at++
    else if (byte === 47 && (bytes[at + 1] === 42 || bytes[at + 1] === 47)) {
      const end = endOfComment(bytes, at)
      if (end < 0) return at
      at = end
    } else return at
  }
}

/** Where a comment ends; -1 where that is far off, since it is probably none. */
function endOfComment(bytes: Uint8Array, from: number): number {
  const isBlock = bytes[from + 1] === 42
  const last = Math.min(bytes.length, from + MAX_COMMENT)
  for (let at = from + 2; at < last; at++) {
    if (isBlock ? bytes[at] === 42 && bytes[at + 1] === 47 : bytes[at] === 10) return at + (isBlock ? 2 : 1)
  }
  return -1
}

/** The characters that escapes of one letter stand for. */
const SIMPLE_ESCAPES: Readonly<Record<string, number>> = { n: 10, r: 13, t: 9, b: 8, f: 12, v: 11, 0: 0 }

/** The byte that a letter stands for behind a backslash. */
export const resolveEscape = (letter: number) => SIMPLE_ESCAPES[String.fromCharCode(letter)] ?? letter

/** Reads an escape behind its backslash: the bytes that it stands for, and where it ends. */
function readEscape(bytes: Uint8Array, from: number): { text: readonly number[]; end: number } {
  const letter = String.fromCharCode(bytes[from] ?? BACKSLASH)
  if (letter === 'x') {
    const code = readHex(bytes, from + 1, 2)
    if (code >= 0) return { text: utf8(String.fromCharCode(code)), end: from + 3 }
  }
  if (letter === 'u') {
    const point = readCodePoint(bytes, from + 1)
    if (point !== null) return point
  }
  if (letter === '\n') return { text: [], end: from + 1 }
  if (letter === '\r' && bytes[from + 1] === 10) return { text: [], end: from + 2 }
  const octal = readOctal(bytes, from)
  if (octal !== null) return octal
  const simple = SIMPLE_ESCAPES[letter]
  return { text: [simple ?? bytes[from] ?? BACKSLASH], end: from + 1 }
}

/** Two or three octal digits: as one byte, which is a character as well where it is ASCII. */
function readOctal(bytes: Uint8Array, from: number): { text: readonly number[]; end: number } | null {
  const [, digits] = /^([0-3]?[0-7]{2})/.exec(String.fromCharCode(...bytes.subarray(from, from + 3))) ?? []
  return digits === undefined ? null : { text: [Number.parseInt(digits, 8)], end: from + digits.length }
}

function readCodePoint(bytes: Uint8Array, from: number): { text: readonly number[]; end: number } | null {
  if (bytes[from] === OPEN) {
    const end = bytes.indexOf(CLOSE, from)
    const code = end < 0 || end > from + 7 ? -1 : readHex(bytes, from + 1, end - from - 1)
    return code < 0 || code > 0x10ffff ? null : { text: toBytes(String.fromCodePoint(code)), end: end + 1 }
  }
  const code = readHex(bytes, from, 4)
  if (code < 0) return null
  const isHigh = code >= 0xd800 && code < 0xdc00
  const low = isHigh && bytes[from + 4] === BACKSLASH && bytes[from + 5] === 117 ? readHex(bytes, from + 6, 4) : -1
  return low < 0
    ? { text: toBytes(String.fromCharCode(code)), end: from + 4 }
    : { text: toBytes(String.fromCharCode(code, low)), end: from + 10 }
}

function readHex(bytes: Uint8Array, from: number, count: number): number {
  let value = 0
  for (let at = from; at < from + count; at++) {
    const digit = Number.parseInt(String.fromCharCode(bytes[at] ?? 0), 16)
    if (Number.isNaN(digit)) return -1
    value = value * 16 + digit
  }
  return count === 0 ? -1 : value
}

/** The bytes of a text; none for half a pair of surrogates, which has none. */
function toBytes(text: string): readonly number[] {
  try {
    return utf8(text)
  } catch {
    return []
  }
}
