import type { CodeFrame } from '../secret/display.ts'
import { type CatalogueEntry, type Detail, type DetailsOf, fill, type Severity } from './catalogue/entry.ts'

/** Where a problem is, and what it is about. All of it may be unknown. */
export interface Location {
  /** Path of the file, relative to the project root where it lies within it, with `/` between directories. */
  readonly file?: string | null
  /** The layer, where it is no file: `the process environment`. */
  readonly layer?: string | null
  /** Line, from 1. */
  readonly line?: number | null
  /** Column, from 1, in UTF-16 code units, as editors count. */
  readonly column?: number | null
  /** Line in which what is wrong ends, from 1; `null` if only its beginning is known. */
  readonly endLine?: number | null
  /** Column behind its last character, from 1, in UTF-16 code units. */
  readonly endColumn?: number | null
  /** Variable name, such as `DOME_KEY`. */
  readonly name?: string | null
  /** Path of the setting in code, such as `dome.key`. */
  readonly setting?: string | null
  /** The stage that was checked. */
  readonly stage?: string | null
  /** The line in question with a mark under the column, where it holds no secret. */
  readonly codeFrame?: CodeFrame | null
  /** The way to it, one step a line, such as a chain of imports. */
  readonly importTrace?: readonly string[] | null
}

/** What every problem has, whatever codes there are. */
export interface CodedProblem<Code extends string> extends Required<Location> {
  readonly code: Code
  readonly severity: Severity
  readonly message: string
  readonly hint: string
}

/**
 * Makes the function that makes the problems of a catalogue. The only place where one is made, so that each sentence
 * stands in a catalogue and nowhere else. Values among the details must have gone through `displayValue`.
 */
export function problemFactory<All extends Entries>(
  entries: () => All,
): <Code extends keyof All & string>(
  code: Code,
  details: DetailsOf<All[Code]>,
  place?: Location,
) => CodedProblem<Code> {
  return (code, details, place = {}) => new LazyProblem(code, entries, details as Details, place)
}

type Entries = Readonly<Record<string, CatalogueEntry>>

type Details = Readonly<Record<string, Detail | null>>

/** A problem that words itself when its sentence is read: of thousands that are found, a report shows a few. */
class LazyProblem<Code extends string> implements CodedProblem<Code> {
  readonly code: Code
  readonly severity: Severity
  readonly stage: string | null
  readonly setting: string | null
  readonly name: string | null
  readonly file: string | null
  readonly layer: string | null
  readonly line: number | null
  readonly column: number | null
  readonly endLine: number | null
  readonly endColumn: number | null
  readonly codeFrame: CodeFrame | null
  readonly importTrace: readonly string[] | null
  /** Made when it is read. An own member all the same, so that a copy of a problem has its sentence. */
  declare readonly message: string
  declare readonly hint: string
  readonly #entries: () => Entries
  readonly #details: Details

  constructor(code: Code, entries: () => Entries, details: Details, place: Location) {
    this.code = code
    this.severity = entries()[code]!.severity
    this.stage = place.stage ?? null
    this.setting = place.setting ?? null
    this.name = place.name ?? null
    this.file = place.file ?? null
    this.layer = place.layer ?? null
    this.line = place.line ?? null
    this.column = place.column ?? null
    this.endLine = place.endLine ?? null
    this.endColumn = place.endColumn ?? null
    this.codeFrame = place.codeFrame ?? null
    this.importTrace = place.importTrace ?? null
    this.#entries = entries
    this.#details = details
    Object.defineProperty(this, 'message', { get: () => fill(entries()[code]!.message, details), enumerable: true })
    Object.defineProperty(this, 'hint', { get: () => this.#hint(), enumerable: true })
  }

  #hint(): string {
    const { hint, nearHint } = this.#entries()[this.code]!
    return fill(nearHint !== null && typeof this.#details.near === 'string' ? nearHint : hint, this.#details)
  }

  /** The same problem with more details, or in another place. */
  with(place: Location, details: Details): CodedProblem<Code> {
    const { stage, setting, name, file, layer, line, column, endLine, endColumn, codeFrame, importTrace } = this
    const was = { stage, setting, name, file, layer, line, column, endLine, endColumn, codeFrame, importTrace }
    return new LazyProblem(this.code, this.#entries, { ...this.#details, ...details }, { ...was, ...place })
  }

  detail(key: string): Detail | null {
    return this.#details[key] ?? null
  }

  [Symbol.for('nodejs.util.inspect.custom')](): object {
    return { ...this }
  }
}

/**
 * A problem, told where it is.
 *
 * @param place what is known now; the rest stays as it was
 * @param details what its sentence is told beside what it was told before
 */
export function withLocation<Code extends string>(
  each: CodedProblem<Code>,
  place: Location,
  details: Details = {},
): CodedProblem<Code> {
  return each instanceof LazyProblem ? each.with(place, details) : { ...each, ...place }
}

/** One of the details that the sentence of a problem was told, also where the sentence does not use it. */
export function getDetail(each: CodedProblem<string>, key: string): Detail | null {
  return each instanceof LazyProblem ? each.detail(key) : null
}
