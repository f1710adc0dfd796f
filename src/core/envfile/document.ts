import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import { decode } from './decode.ts'
import type { EnvEntry } from './entry.ts'
import { EntryTable } from './entry-table.ts'
import { type Scan, scan } from './scan.ts'

/** Options of {@link EnvDocument.from}. */
export interface EnvDocumentOptions {
  /** The path to name in problems. */
  readonly file?: string
}

/**
 * An env file, read. Keeps its text as it is: `String(document)` gives back the same text for every input.
 * The dialect is described in `docs/env-file-format.md`.
 *
 * @example
 * ```ts
 * const document = EnvDocument.from('SERVER_PORT=4100 # the dome service\n', { file: '.env' })
 * document.get('SERVER_PORT')?.value // '4100'
 * document.problems                  // []
 * String(document)                   // 'SERVER_PORT=4100 # the dome service\n'
 * ```
 */
export class EnvDocument {
  /** The path that problems name, if one was given. */
  readonly file: string | null
  /** The entries, in the order in which they stand. */
  readonly entries: readonly EnvEntry[]
  /** What is wrong with the text, and what was read leniently. */
  readonly problems: readonly Problem[]
  readonly #text: string
  readonly #table: EntryTable

  private constructor(text: string, file: string | null, scan: Scan) {
    this.#text = text
    this.file = file
    this.#table = scan.table
    this.entries = scan.table.all()
    this.problems = scan.problems
  }

  /**
   * Reads a text. Never throws: what is wrong is in `problems`.
   *
   * @param text the whole text of an env file
   */
  static from(text: string, options: EnvDocumentOptions = {}): EnvDocument {
    const file = options.file ?? null
    const nul = text.indexOf('\0')
    if (nul >= 0) {
      const before = text.slice(0, nul)
      const line = before.split('\n').length
      const column = nul - (before.lastIndexOf('\n') + 1) + 1
      return new EnvDocument(text, file, nothingRead(problem('nul-byte', {}, { file, line, column })))
    }
    return new EnvDocument(text, file, scan(text, file))
  }

  /**
   * Reads the bytes of a file. Never throws: bytes that are not UTF-8 text give a document without entries
   * and a problem that says so.
   *
   * @param bytes the whole file
   */
  static fromBytes(bytes: Uint8Array, options: EnvDocumentOptions = {}): EnvDocument {
    const decoded = decode(bytes, options.file ?? null)
    if ('text' in decoded) return EnvDocument.from(decoded.text, options)
    return new EnvDocument('', options.file ?? null, nothingRead(decoded.problem))
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

  /** The text, the same as was read. */
  toString(): string {
    return this.#text
  }
}

function nothingRead(why: Problem): Scan {
  return { table: new EntryTable(''), problems: [why] }
}
