import type { Template } from '../../template/template.ts'
import type { EnvEntry, Quote } from './entry.ts'

const QUOTES: readonly Quote[] = ['', "'", '"']

/** The numbers kept for each entry, in this order. */
const LINE = 0
const LINE_START = 1
const START = 2
const NAME_END = 3
const VALUE_START = 4
const VALUE_END = 5
const FLAGS = 6
const HASH = 7
const NUMBERS = 8

/** Bits of the flags beside the quote, which has the lowest two. */
const BROKEN = 4
const SPECIAL = 8
const MISREAD = 16

/** What is known of an entry when it is added. */
export interface EntryPlace {
  readonly line: number
  /** Where the line of the name begins in the text. */
  readonly lineStart: number
  readonly start: number
  readonly nameEnd: number
  readonly valueStart: number
}

/**
 * The entries of one text. Keeps a few numbers for each in one array and cuts names and values out of the text
 * when they are asked for: a file of a hundred thousand lines would otherwise cost more in collecting garbage
 * than in reading.
 */
export class EntryTable {
  readonly text: string
  count = 0
  numbers = new Int32Array(64 * NUMBERS)
  /** The values that do not stand in the text as they are: with escapes, or with references. */
  readonly special = new Map<number, string | Template>()
  /** Open addressing: an index of an entry plus 1, or 0; made when all entries are there. */
  private slots = new Int32Array(0)

  constructor(text: string) {
    this.text = text
  }

  /**
   * Adds an entry.
   *
   * @param value its value, or `null` where that stands in the text as it is
   * @param misread true where the line is no entry, and was only taken for one so that its value is not reported twice, or where
   *   it may be the rest of a value above
   */
  add(
    place: EntryPlace,
    valueEnd: number,
    quote: Quote,
    value: string | Template | null,
    broken: boolean,
    misread = false,
  ): void {
    const at = this.count * NUMBERS
    if (at + NUMBERS > this.numbers.length) {
      const larger = new Int32Array(2 * this.numbers.length)
      larger.set(this.numbers)
      this.numbers = larger
    }
    const { numbers } = this
    numbers[at + LINE] = place.line
    numbers[at + LINE_START] = place.lineStart
    numbers[at + START] = place.start
    numbers[at + NAME_END] = place.nameEnd
    numbers[at + VALUE_START] = place.valueStart
    numbers[at + VALUE_END] = valueEnd
    numbers[at + HASH] = hash(this.text, place.start, place.nameEnd)
    numbers[at + FLAGS] =
      QUOTES.indexOf(quote) | (broken ? BROKEN : 0) | (value === null ? 0 : SPECIAL) | (misread ? MISREAD : 0)
    if (value !== null) this.special.set(this.count, value)
    this.count++
  }

  /** All entries, in the order in which they stand. */
  all(): EnvEntry[] {
    return Array.from({ length: this.count }, (_, index) => new TableEntry(this, index))
  }

  /** The names of all entries, but for lines that were only taken for one: those may be pieces of a secret. */
  names(): string[] {
    const found: string[] = []
    for (let at = 0; at < this.count * NUMBERS; at += NUMBERS) {
      if ((this.numbers[at + FLAGS]! & MISREAD) !== 0) continue
      found.push(this.text.slice(this.numbers[at + START]!, this.numbers[at + NAME_END]!))
    }
    return found
  }

  /** The last entry of a name. */
  last(name: string): EnvEntry | undefined {
    if (this.slots.length === 0) return undefined
    const { numbers, text, slots } = this
    const mask = slots.length - 1
    for (let slot = hashText(name) & mask; slots[slot] !== 0; slot = (slot + 1) & mask) {
      const index = slots[slot]! - 1
      const start = numbers[index * NUMBERS + START]!
      const length = numbers[index * NUMBERS + NAME_END]! - start
      if (length === name.length && text.startsWith(name, start)) return new TableEntry(this, index)
    }
    return undefined
  }

  /**
   * Makes the index of names, once all entries are there.
   *
   * @param repeated is called for each entry whose name comes again, when the index is whole, and of the entry that holds
   */
  index(repeated: (entry: EnvEntry, holds: EnvEntry) => void): void {
    let size = 8
    while (size < 2 * this.count) size *= 2
    this.slots = new Int32Array(size)
    const { numbers, text, slots } = this
    const beaten: number[] = []
    for (let index = 0; index < this.count; index++) {
      const start = numbers[index * NUMBERS + START]!
      const end = numbers[index * NUMBERS + NAME_END]!
      let slot = numbers[index * NUMBERS + HASH]! & (size - 1)
      while (slots[slot] !== 0) {
        const other = slots[slot]! - 1
        const otherStart = numbers[other * NUMBERS + START]!
        if (
          numbers[other * NUMBERS + NAME_END]! - otherStart === end - start &&
          same(text, start, otherStart, end - start)
        ) {
          if (((numbers[other * NUMBERS + FLAGS]! | numbers[index * NUMBERS + FLAGS]!) & MISREAD) === 0)
            beaten.push(other)
          break
        }
        slot = (slot + 1) & (size - 1)
      }
      slots[slot] = index + 1
    }
    for (const other of beaten) {
      const entry = new TableEntry(this, other)
      repeated(entry, this.last(entry.name)!)
    }
  }
}

/** An entry that looks itself up in its table. */
class TableEntry implements EnvEntry {
  // Out of reach of loggers, who would print the whole file.
  readonly #table: EntryTable
  readonly #index: number

  constructor(table: EntryTable, index: number) {
    this.#table = table
    this.#index = index
  }

  private number(which: number): number {
    return this.#table.numbers[this.#index * NUMBERS + which]!
  }

  get name(): string {
    return this.#table.text.slice(this.start, this.nameEnd)
  }

  get value(): string | Template {
    const flags = this.number(FLAGS)
    if ((flags & SPECIAL) !== 0) return this.#table.special.get(this.#index)!
    if ((flags & BROKEN) !== 0) return ''
    const inner = (flags & 3) === 0 ? 0 : 1
    return this.#table.text.slice(this.valueStart + inner, this.valueEnd - inner)
  }

  get quote(): Quote {
    return QUOTES[this.number(FLAGS) & 3]!
  }

  get broken(): boolean {
    return (this.number(FLAGS) & BROKEN) !== 0
  }

  get line(): number {
    return this.number(LINE)
  }

  get column(): number {
    return this.start - this.number(LINE_START) + 1
  }

  get valueColumn(): number {
    return this.valueStart - this.number(LINE_START) + 1
  }

  get start(): number {
    return this.number(START)
  }

  get nameEnd(): number {
    return this.number(NAME_END)
  }

  get valueStart(): number {
    return this.number(VALUE_START)
  }

  get valueEnd(): number {
    return this.number(VALUE_END)
  }
}

let lastName = ''
let lastHash = 0

/** The hash of a name. Each layer in turn is asked for the same name, so the last one is kept. */
function hashText(name: string): number {
  if (name !== lastName) {
    lastHash = hash(name, 0, name.length)
    lastName = name
  }
  return lastHash
}

/** FNV-1a over the characters of a name. */
function hash(text: string, start: number, end: number): number {
  let value = 0x811c9dc5
  for (let at = start; at < end; at++) value = Math.imul(value ^ text.charCodeAt(at), 0x01000193)
  // The low bits choose the slot; fold the high ones in, since names differ at their ends most.
  return value ^ (value >>> 15)
}

function same(text: string, a: number, b: number, length: number): boolean {
  for (let i = 0; i < length; i++) if (text.charCodeAt(a + i) !== text.charCodeAt(b + i)) return false
  return true
}
