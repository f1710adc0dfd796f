import { editingProblem } from '../problems/catalogue/editing.ts'
import { settingsError } from '../problems/settings-error.ts'
import type { Template } from '../template/template.ts'
import { type Editable, removeEntry, renameEntry, type SetOptions, setEntry } from './edit.ts'
import { decode } from './reading/decode.ts'
import type { EnvEntry } from './reading/entry.ts'
import { ParsedEnvFile, readNothing, scanText } from './reading/reading.ts'

/** Options of {@link EnvDocument.from}. */
export interface EnvDocumentOptions {
  /**
   * The path to name in problems.
   * @default none
   */
  readonly file?: string
}

/**
 * An env file, to read and to change. Keeps its text as it is: `String(document)` returns the same text for every
 * input. The dialect is described in `docs/env-file-format.md`.
 *
 * @example
 * ```ts
 * const document = EnvDocument.from('SERVER_PORT=4100 # the dome service\n', { file: '.env' })
 * document.get('SERVER_PORT')?.value         // '4100'
 * document.problems                          // []
 * String(document)                           // 'SERVER_PORT=4100 # the dome service\n'
 * String(document.set('SERVER_PORT', '4200')) // 'SERVER_PORT=4200 # the dome service\n'
 * ```
 */
export class EnvDocument extends ParsedEnvFile {
  /**
   * Reads a text. Never throws: what is wrong is in `problems`.
   *
   * @param text the whole text of an env file
   */
  static from(text: string, { file = '' }: EnvDocumentOptions = {}): EnvDocument {
    return new EnvDocument(text, file || null, scanText(text, file || null))
  }

  /**
   * Reads the bytes of a file. Never throws: bytes that are not UTF-8 text give a document without entries
   * and a problem that says so.
   *
   * @param bytes the whole file
   */
  static fromBytes(bytes: Uint8Array, { file = '' }: EnvDocumentOptions = {}): EnvDocument {
    const decoded = decode(bytes, file || null)
    if ('text' in decoded) return EnvDocument.from(decoded.text, { file })
    return new EnvDocument('', file || null, readNothing(decoded.problem))
  }

  /**
   * Gives a value to a name; a name that has none yet goes to the end of the file, or behind another. All else
   * stays as it is: comments, order, spacing, line ends, and quotes where they can hold the value. What is written
   * reads the same in any POSIX shell.
   *
   * @returns a new document; this one stays as it is
   * @throws {SettingsError} where the name or the value can't be written, or an open quote would swallow them
   * @example
   * ```ts
   * String(EnvDocument.from('DOME_URL="x" # the dome\n').set('DOME_URL', 'y')) // DOME_URL="y" # the dome
   * ```
   */
  set(name: string, value: string, options: SetOptions = {}): EnvDocument {
    const edited = this.#edited(setEntry(this.#editable(), name, value, options))
    if (edited.get(name)?.value !== value) this.#refuse(name)
    return this.#checked(edited, name)
  }

  /** Gives a value to a name that has none yet, behind the entry of another. As {@link EnvDocument.set}. */
  insertEntry(other: string, name: string, value: string): EnvDocument {
    return this.set(name, value, { after: other })
  }

  /**
   * Takes out every entry of a name, with its line.
   *
   * @throws {SettingsError} where an open quote would then swallow others
   */
  remove(name: string): EnvDocument {
    return this.#checked(this.#edited(removeEntry(this.#editable(), name)), name)
  }

  /**
   * Renames every entry of a name, and every reference to it in this file.
   *
   * @throws {SettingsError} where the new name can't be one, or is taken
   */
  rename(from: string, to: string): EnvDocument {
    const edited = this.#edited(renameEntry(this.#editable(), from, to))
    if (edited.entries.length !== this.entries.length) this.#refuse(to)
    return edited
  }

  /** An edit must change nothing else: every other entry is still there, with the value that it had. */
  #checked(edited: EnvDocument, name: string): EnvDocument {
    const listOthers = (document: EnvDocument) => document.entries.filter((each) => each.name !== name)
    const [before, after] = [listOthers(this), listOthers(edited)]
    const isSame = (each: EnvEntry, index: number) =>
      each.name === after[index]!.name &&
      each.broken === after[index]!.broken &&
      isSameValue(each.value, after[index]!.value)
    if (before.length !== after.length || !before.every(isSame)) this.#refuse(name)
    return edited
  }

  #refuse(name: string): never {
    // An open quote further up takes the entry in, or lets go what it had taken in.
    const line = this.problems.find((each) => each.severity === 'error')?.line ?? 1
    const why = editingProblem('edit-swallowed', { name, line }, { file: this.file, line, name })
    throw settingsError(why)
  }

  #editable(): Editable {
    return { text: String(this), entries: this.entries, last: (name) => this.get(name) }
  }

  #edited(text: string): EnvDocument {
    return EnvDocument.from(text, this.file === null ? {} : { file: this.file })
  }
}

/** True for the same text, or the same pieces; where references stand in the file does not matter. */
function isSameValue(a: EnvEntry['value'], b: EnvEntry['value']): boolean {
  if (typeof a === 'string' || typeof b === 'string') return a === b
  return a.length === b.length && a.every((piece, index) => isSamePiece(piece, b[index]!))
}

function isSamePiece(a: Template[number], b: Template[number]): boolean {
  if (typeof a === 'string' || typeof b === 'string') return a === b
  return a.name === b.name && a.operator === b.operator && isSameValue(a.word, b.word)
}
