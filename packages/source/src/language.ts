import type { Rewriting } from './rewriting.ts'
import type { Source, WantedValue } from './source.ts'

/** One language, or one kind of file: adding one is a file here and a line in `index.ts`. */
export interface Language {
  readonly name: string
  /** The paths of its files. */
  readonly files: RegExp
  /** True if `mayContainFindings` knows how it reads variables, or it reads none: files without a hint are not read at all. */
  readonly isPrefiltered: boolean
  /** True for a text that reads a variable in the way of this language, where the filter does not know it. */
  readonly readsVariables?: (text: string) => boolean
  /** True for a language in which programs read typed settings by their path, `settings.dome.key`. */
  readonly readsByPath?: boolean
  /** True for what programs also write, all on one line; that is skipped. */
  readonly mayBeMinified: boolean
  /**
   * Larger files are skipped, in bytes: they are made by programs.
   * @default 1048576
   */
  readonly maxBytes?: number
  /**
   * Reads a file: its fixed values, and the variables that it reads.
   *
   * @param text what the file holds
   * @param file the path to name in places
   * @param isWanted false for a value that is of no interest, so that a reader need not find out what it is given to; without it,
   * every value is
   * @returns `null` if the text can't be understood
   */
  readonly read: (text: string, file: string, isWanted?: WantedValue) => Source | null
  /** How values in its files are replaced; none where its files can't read a variable. */
  readonly rewriting?: Rewriting
}
