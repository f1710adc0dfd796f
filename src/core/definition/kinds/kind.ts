import type { ConstraintName } from './constraints.ts'
import type { Conversion } from './failure.ts'

/** An option that belongs to one kind alone, and how to tell that it was given rightly. */
export interface KindOption {
  /** What to write, as text, such as `a list of words`. */
  readonly needed: string
  readonly accepts: (value: unknown) => boolean
  /** True where the kind can't do without. */
  readonly required?: boolean
}

/** The options of a setting, as given. */
export type Options = Readonly<Record<string, unknown>>

/**
 * What a value can be. A kind is one file of this directory and one line in `index.ts`.
 *
 * `Make` is the type of the function that makes a setting of this kind, `setting.port` for example.
 */
export interface Kind<T = unknown, Make = unknown> {
  readonly name: string
  /** What a value is, in a few words, such as `whole number`. */
  readonly says: (options: Options) => string
  /** The constraints of JSON Schema that fit this kind. */
  readonly constraints: readonly ConstraintName[]
  /** Options beside them. */
  readonly options?: Readonly<Record<string, KindOption>>
  /** Options of which the kind can't do without one. */
  readonly oneOf?: readonly string[]
  /** True for a value that is of this kind already, such as a default. */
  readonly accepts: (value: unknown) => boolean
  /**
   * Converts a text. Never guesses: what is not wholly of this kind fails.
   *
   * @param text a text that is not empty, unless the setting allows that
   */
  readonly convert: (text: string, options: Options) => Conversion<T>
  /** The text that converts to a value. */
  readonly toText: (value: T, options: Options) => string
  /** True if a default or a limit may be given as a text of this kind, such as `28d`. */
  readonly readsText?: boolean
  /** True where people read numbers better as texts of this kind, as in "at least 15m". */
  readonly show?: boolean
  /** True where a default can't be held against the conversion, since nobody knows the way back. */
  readonly unchecked?: boolean
  /** What the typed value is in JSON Schema (2020-12), its constraints left aside. */
  readonly schema: Readonly<Record<string, unknown>>
  /** What the text form is in JSON Schema: a pattern for the whole, and the rules of the kind that it does not express. */
  readonly text?: (options: Options) => {
    readonly pattern?: string
    readonly maxLength?: number
    readonly notExpressed?: readonly string[]
  }
  /** True where `text` expresses the limits of numbers as well. */
  readonly expressesLimits?: boolean
  /** The texts that stand for some values, in JSON Schema; left out where there is no end of them. */
  readonly textOfValues?: (values: readonly unknown[]) => Readonly<Record<string, unknown>>
  /** For types alone; there is nothing here when the program runs. */
  readonly make?: Make
}

/** Gives a kind its type. */
export function kind<T, Make>(definition: Kind<T, Make>): Kind<T, Make> {
  return definition
}
