import type { Problem } from '../../problems/problem.ts'
import { problem } from '../../problems/problem.ts'
import { findEnd, type Position } from '../../text/position.ts'
import { findDayLine } from './day.ts'
import { decode } from './decode.ts'
import type { EnvEntry } from './entry.ts'
import { EntryTable } from './entry-table.ts'
import { type Scan, scan } from './scan.ts'

/**
 * An env file as it was read: all that loading needs. `EnvDocument` adds what changes a file; a program that only
 * loads its settings does not carry that along.
 */
export class ParsedEnvFile {
  /** The path that problems name, if one was given. */
  readonly file: string | null
  /** What is wrong with the text, and what was read leniently. */
  readonly problems: readonly Problem[]
  readonly #text: string
  readonly #table: EntryTable
  #entries: readonly EnvEntry[] | undefined

  protected constructor(text: string, file: string | null, found: Scan) {
    this.#text = text
    this.file = file
    this.#table = found.table
    this.problems = found.problems
  }

  /** Reads a text. Never throws: what is wrong is in `problems`. */
  static read(text: string, file: string | null): ParsedEnvFile {
    return new ParsedEnvFile(text, file, scanText(text, file))
  }

  /** Reads the bytes of a file. Never throws: bytes that are not UTF-8 text give no entries and a problem. */
  static readBytes(bytes: Uint8Array, file: string | null): ParsedEnvFile {
    const decoded = decode(bytes, file)
    return 'text' in decoded
      ? ParsedEnvFile.read(decoded.text, file)
      : new ParsedEnvFile('', file, readNothing(decoded.problem))
  }

  /** The entries, in the order in which they stand. */
  get entries(): readonly EnvEntry[] {
    this.#entries ??= this.#table.all()
    return this.#entries
  }

  /** The names of all entries, but for lines that are no entries and were only taken for one. */
  names(): readonly string[] {
    return this.#table.names()
  }

  /** The entry that holds for a name: the last one, where there are several. */
  get(name: string): EnvEntry | undefined {
    return this.#table.last(name)
  }

  /**
   * An entry as it stands in the text: what is before its value, and the value with its quotes. What a person
   * sees of either must go through `displayEntry`.
   */
  written(entry: EnvEntry): { before: string; value: string } {
    return {
      before: this.#text.slice(entry.start, entry.valueStart),
      value: this.#text.slice(entry.valueStart, entry.valueEnd),
    }
  }

  /** Where the value of an entry ends, behind its last character. */
  findEnd({ line, valueColumn, valueStart, valueEnd }: EnvEntry): Position {
    return findEnd(this.#text.slice(valueStart, valueEnd), { line, column: valueColumn })
  }

  /** The day on which an entry was set (RFC 3339, `2026-11-23`), where the comment line above it says so. */
  getDay(entry: EnvEntry): string | null {
    return findDayLine(this.#text, entry)?.day ?? null
  }

  /** What loggers and `JSON.stringify` get: no value, since which ones are secret is not known here, and no word of other lines. */
  toJSON(): object {
    const names = new Set(this.names())
    const entries = this.entries.filter(({ name }) => names.has(name)).map(({ name, line }) => ({ name, line }))
    return { file: this.file, entries, problems: this.problems }
  }

  [Symbol.for('nodejs.util.inspect.custom')](): object {
    return this.toJSON()
  }

  /** The text, the same as was read. */
  toString(): string {
    return this.#text
  }
}

/** Scans a text, unless it holds a NUL and so is none. */
export function scanText(text: string, file: string | null): Scan {
  const nul = text.indexOf('\0')
  if (nul < 0) return scan(text, file)
  const before = text.slice(0, nul)
  const line = before.split('\n').length
  const column = nul - (before.lastIndexOf('\n') + 1) + 1
  return readNothing(problem('nul-byte', {}, { file, line, column }))
}

/** What there is of a file that is not text. */
export function readNothing(why: Problem): Scan {
  return { table: new EntryTable(''), problems: [why] }
}
