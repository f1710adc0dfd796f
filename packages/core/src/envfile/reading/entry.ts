import type { Template } from '../../template/template.ts'

/** How a value is quoted: not at all, in single or in double quotes. */
export type Quote = '' | "'" | '"'

/**
 * One `NAME=value` of an env file. Lines and columns count from 1; columns and offsets count UTF-16 code
 * units, as editors do.
 */
export interface EnvEntry {
  readonly name: string
  /** The value: as text where it is fixed, else as the pieces of text and references it is made of. */
  readonly value: string | Template
  readonly quote: Quote
  /** True where the value has an error and stands for nothing; the problem says why. */
  readonly broken: boolean
  /** Line of the name. */
  readonly line: number
  /** Column of the name. */
  readonly column: number
  /** Column of the value, or of its opening quote; it is on the same line as the name. */
  readonly valueColumn: number
  /** Where the name begins in the text, from 0. */
  readonly start: number
  /** Where the value, or its opening quote, begins in the text, from 0. */
  readonly valueStart: number
  /** Where the name ends in the text. */
  readonly nameEnd: number
  /** Where the value ends in the text, behind its closing quote; a broken one ends with its last line. */
  readonly valueEnd: number
}
