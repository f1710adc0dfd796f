/** Where a text stops being JSON that a program reads as it was written. */
export type JsonFault =
  /** No JSON continues here. */
  | { readonly what: 'syntax'; readonly offset: number }
  /** A number with more digits than a number of the language holds, or too large for it. */
  | { readonly what: 'number'; readonly offset: number; readonly isTooLarge: boolean }
  /** A second member of the same name, which would take the place of the first. */
  | { readonly what: 'member'; readonly offset: number }
  | { readonly what: 'depth'; readonly offset: number }

/**
 * Finds what `JSON.parse` would refuse, and what it would change without a word: digits that are lost, and members of the same
 * name. The place is the same in every runtime.
 *
 * @param text by RFC 8259
 * @param maxDepth lists and objects within each other, at most
 * @returns the first fault; `null` where a program gets all that is written
 */
export function findJsonFault(text: string, maxDepth: number): JsonFault | null {
  try {
    new JsonScanner(text, maxDepth).scan()
    return null
  } catch (error) {
    if (error instanceof Fault) return error.fault
    throw error
  }
}

class Fault extends Error {
  readonly fault: JsonFault

  constructor(fault: JsonFault) {
    super(fault.what)
    this.fault = fault
  }
}

const BLANKS = /[ \t\n\r]*/y
const NUMBER = /-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?/y
const WORD = /true|false|null/y
const ESCAPE = /\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})/y

class JsonScanner {
  readonly #text: string
  readonly #maxDepth: number
  #at = 0

  constructor(text: string, maxDepth: number) {
    this.#text = text
    this.#maxDepth = maxDepth
  }

  scan(): void {
    this.#scanValue(0)
    this.#match(BLANKS)
    if (this.#at < this.#text.length) this.#fail('syntax')
  }

  #scanValue(depth: number): void {
    this.#match(BLANKS)
    const from = this.#at
    const first = this.#text[from]
    if (first === '{' || first === '[') {
      if (depth >= this.#maxDepth) this.#fail('depth')
      if (first === '{') this.#scanObject(depth)
      else this.#scanList(depth)
    } else if (first === '"') this.#scanString()
    else if (this.#match(NUMBER)) checkNumber(this.#text.slice(from, this.#at), from)
    else if (!this.#match(WORD)) this.#fail('syntax')
  }

  #scanList(depth: number): void {
    this.#at++
    if (this.#takes(']')) return
    do this.#scanValue(depth + 1)
    while (this.#takes(','))
    this.#expect(']')
  }

  #scanObject(depth: number): void {
    this.#at++
    if (this.#takes('}')) return
    const names = new Set<string>()
    do {
      this.#match(BLANKS)
      const from = this.#at
      if (this.#text[from] !== '"') this.#fail('syntax')
      this.#scanString()
      const name = JSON.parse(this.#text.slice(from, this.#at)) as string
      if (names.has(name)) throw new Fault({ what: 'member', offset: from })
      names.add(name)
      this.#expect(':')
      this.#scanValue(depth + 1)
    } while (this.#takes(','))
    this.#expect('}')
  }

  #scanString(): void {
    this.#at++
    for (; ; this.#at++) {
      const code = this.#text.charCodeAt(this.#at)
      if (code === 0x22) break
      if (code === 0x5c) {
        if (!this.#match(ESCAPE)) this.#fail('syntax')
        this.#at--
      } else if (!(code >= 0x20)) this.#fail('syntax')
    }
    this.#at++
  }

  #match(expression: RegExp): boolean {
    expression.lastIndex = this.#at
    if (!expression.test(this.#text)) return false
    this.#at = expression.lastIndex
    return true
  }

  #takes(character: string): boolean {
    this.#match(BLANKS)
    if (this.#text[this.#at] !== character) return false
    this.#at++
    return true
  }

  #expect(character: string): void {
    if (!this.#takes(character)) this.#fail('syntax')
  }

  #fail(what: 'syntax' | 'depth'): never {
    throw new Fault({ what, offset: this.#at })
  }
}

function checkNumber(written: string, offset: number): void {
  const read = Number(written)
  if (!Number.isFinite(read)) throw new Fault({ what: 'number', offset, isTooLarge: true })
  const digits = findDigits(written)
  const count = Math.max(digits.replace(/e.*/, '').length, 1)
  // Written with as many digits, the number that was read has to be the same: the last ones of 12345678901234567 get lost. Between two
  // numbers of as many digits that are as close, the language writes either.
  const isSame =
    digits === findDigits(String(read)) || (count <= MAX_DIGITS && digits === findDigits(read.toPrecision(count)))
  if (!isSame) throw new Fault({ what: 'number', offset, isTooLarge: false })
}

/** As many as the language can write. */
const MAX_DIGITS = 100

/** The digits of a number without zeros around them, and the power of ten of the last: the same for `1200` and `1.2e3`. */
function findDigits(number: string): string {
  const [, whole = '', fraction = '', exponent = '0'] = /^-?(\d+)(?:\.(\d+))?(?:[eE]([+-]?\d+))?$/.exec(number)!
  const all = (whole + fraction).replace(/^0+/, '')
  const digits = all.replace(/0+$/, '')
  return digits === '' ? '0' : `${digits}e${Number(exponent) - fraction.length + all.length - digits.length}`
}
