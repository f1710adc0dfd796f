import type { TextEdit } from '@mappa/core/text/edits'
import type { ObstacleCode } from './obstacles.ts'

/** A variable of the environment that code is to read. */
export interface ReadVariable {
  readonly name: string
  /** What the value is in code. */
  readonly form: 'text' | 'number'
  readonly secret: boolean
  /** The expression that has the value, where code reads typed settings; none where it reads the variable itself. */
  readonly expression?: string
}

/** Edits; or what is against them, and `null` where they can't be written. */
export type Replacement = readonly TextEdit[] | ObstacleCode | null

/** A value in a file that could be replaced. */
export interface Replaceable {
  /** From 1. */
  readonly line: number
  readonly column: number
  /** Where it begins and ends in the text, from 0, quotes included. */
  readonly start: number
  readonly end: number
  /** The value, escapes undone. */
  readonly value: string
  readonly form: 'text' | 'number'
  /** Why it can't be replaced; `null` where it can. */
  readonly obstacle: ObstacleCode | null
  /** The variable that it stands in for: `DOME_KEY` of `os.environ.get("DOME_KEY", "...")`. */
  readonly variable: string | null
  /** The edits that put the reading of a variable in its place. */
  readonly replace: (variable: ReadVariable) => Replacement
  /** The same for a part of it, by offsets in the text; none where its parts are values of their own. */
  readonly replacePart?: (variable: ReadVariable, start: number, end: number) => Replacement
  /** The same for a conditional that it is a value of; none in languages that have no conditionals. */
  readonly replaceAround?: (variable: ReadVariable, start: number, end: number) => Replacement
}

/** What is around a file that is changed. */
export interface FileSurroundings {
  /** The texts of the other files of its directory that are in the same language. */
  readonly siblings: () => readonly string[]
  /** The texts of all other files of the project that are in the same language. */
  readonly others: () => readonly string[]
  /** Names of helpers that were added to files of its directory by the same change. */
  readonly helpers: Set<string>
}

/** How values in the files of a language are replaced by reads of variables. */
export interface Rewriting {
  /** False for a file of the language that can't read variables; none where all can. */
  readonly canRead?: (file: string) => boolean
  /**
   * The values in a file.
   *
   * @param secrets values that count wherever they stand
   * @returns `null` where it can't be parsed
   */
  readonly find: (
    text: string,
    file: string,
    around: FileSurroundings,
    secrets: readonly string[],
  ) => readonly Replaceable[] | null
  /**
   * What else the edits need: an import, a declaration.
   *
   * @param edits those of the values, in the order of the text
   * @returns all edits
   */
  readonly complete?: (text: string, edits: readonly TextEdit[], around: FileSurroundings) => readonly TextEdit[]
  /** What is done to the text when all is replaced. */
  readonly tidy?: (text: string) => string
  /** How many places of a text are not understood; more of them after a change mean that it was wrong. */
  readonly faults?: (text: string, file: string) => number
  /** What the program printed, where its file keeps that. */
  readonly outputs?: {
    /** Where it stands, by offsets from 0. */
    readonly ranges: (text: string) => readonly { readonly start: number; readonly end: number }[]
    /** The edits that take away what shows one of some values. */
    readonly clear: (text: string, values: readonly string[]) => readonly TextEdit[]
  }
  /**
   * The command that starts such a file, to be run by `mappa run`; `null` where that can't be told.
   *
   * @param names the variables that it reads now
   */
  readonly start: (file: string, names: readonly string[]) => string | null
}
