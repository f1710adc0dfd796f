import type { ConstraintName } from './constraints.ts'
import type { Conversion, Failure } from './failure.ts'

/** An option that belongs to one kind alone, and how to tell that it was given rightly. */
export interface KindOption {
  /** What to write, as text, such as `a list of words`. */
  readonly expected: string
  readonly isValid: (value: unknown) => boolean
  /** True if the kind requires it. */
  readonly required?: boolean
  /** True if it is a setting itself, which JSON writes as an object with a kind. */
  readonly isSetting?: boolean
  /** What it has to be in a stage that has its own, so that the type of the value stays; left out where it can't change it. */
  readonly keepsType?: {
    readonly expected: string
    readonly isKept: (inStage: unknown, inAllStages: unknown) => boolean
  }
}

/** Stands for a value that has no text, such as an object that holds itself. */
export const NO_TEXT = '(a value that has no text)'

/** An option that a stage can't have of its own, since it makes the type of the value. */
export const MAKES_TYPE = { expected: 'left out', isKept: () => false } as const

/** What an item of a list is. The definition adds the checks that its options ask for. */
export interface Item {
  readonly kind: Kind
  readonly options: Options
  readonly checks?: readonly ((value: unknown) => Failure | null)[]
}

/** The options of a setting that can be used: each is of the type that it has to be. */
export interface Options {
  readonly formerly?: readonly string[]
  readonly deprecated?: boolean | string
  readonly readAt?: 'build' | 'runtime'
  readonly requiredIn?: readonly string[]
  readonly distinctAcrossStages?: boolean
  readonly rotateEvery?: string
  readonly acceptFormerFor?: string
  readonly pattern?: string | RegExp
  readonly maxLength?: number
  /** Those of one kind, and constraints. */
  readonly [option: string]: unknown
}

/** How a typed value appears in TypeScript, in the payload of a page, and in texts that are searched. */
export interface ValueType {
  /** The type of the value in TypeScript. */
  readonly typescript: (options: Options) => string
  /**
   * How JSON carries the value to a page, in letters: `s` text, `n` number, `b` true or false, `d` a `Date` as RFC 3339 writes it, `j`
   * any JSON; `a` before another letter is a list of such, bytes among them as numbers.
   */
  readonly payload: (options: Options) => string
  /**
   * The JavaScript expression that makes the value of what a payload carries; left out if it is the value.
   *
   * @param carried an expression for what it carries; `undefined` for an optional setting without a value
   */
  readonly fromPayload?: (carried: string, options: Options) => string | null
  /** True if the value is a text, in JSON at least. */
  readonly isText?: boolean
  /** True if values are numbers or a few words, which stand anywhere by chance, so that no page can be searched for them. */
  readonly isCommon?: boolean
}

/**
 * What a value can be. A kind is one file of this directory and one line in `index.ts`.
 *
 * `Make` is the type of the function that makes a setting of this kind, `setting.port` for example. What is marked as internal is no
 * part of the types that programs see.
 */
export interface Kind<T = unknown, Make = unknown> {
  readonly name: string
  /** What a value is, in a few words, such as `whole number`. */
  readonly describe: (options: Options) => string
  /** The constraints of JSON Schema that fit this kind. @internal */
  readonly constraints: readonly ConstraintName[]
  /** Options beside them. @internal */
  readonly options?: Readonly<Record<string, KindOption>>
  /** Options of which the kind can't do without one. @internal */
  readonly oneOf?: readonly string[]
  /** True for a value that is of this kind already, such as a default. @internal */
  readonly isValid: (value: unknown) => boolean
  /**
   * Converts a text. Never guesses: what is not wholly of this kind fails.
   *
   * @param text a text that is not empty, unless the setting allows that
   * @internal
   */
  readonly convert: (text: string, options: Options) => Conversion<T>
  /** The text that converts to a value. @internal */
  readonly toText: (value: T, options: Options) => string
  /** True if a default or a limit may be given as a text of this kind, such as `28d`. @internal */
  readonly readsText?: boolean
  /** True where people read numbers better as texts of this kind, as in "at least 15m". @internal */
  readonly show?: boolean
  /** True where a default can't be held against the conversion, since nobody knows the way back. @internal */
  readonly unchecked?: boolean
  /** The only texts there are, if there are few. @internal */
  readonly values?: (options: Options) => readonly string[]
  /** What an item is, for kinds whose value is a list of items. @internal */
  readonly items?: (options: Options) => Item
  /** What the typed value is in JSON Schema (2020-12), without constraints, values and items. @internal */
  readonly schema: Readonly<Record<string, unknown>>
  /** What the value is, outside of this program. @internal */
  readonly type: ValueType
  /** True if a flag for it needs no value: `--dome-motors`, `--no-dome-motors`. @internal */
  readonly isSwitch?: boolean
  /** What the text form is in JSON Schema: a pattern for the whole, and the rules of the kind that it does not express. @internal */
  readonly text?: (options: Options) => {
    readonly pattern?: string
    readonly maxLength?: number
    readonly notExpressed?: readonly string[]
  }
  /** True where `text` expresses the limits of numbers as well. @internal */
  readonly expressesLimits?: boolean
  /** The texts that stand for some values, in JSON Schema; left out where there is no end of them. @internal */
  readonly textOfValues?: (values: readonly unknown[]) => Readonly<Record<string, unknown>>
  /** For types alone; there is nothing here when the program runs. @internal */
  readonly make?: Make
}

/** Gives a kind its type. */
export function kind<T, Make>(definition: Kind<T, Make>): Kind<T, Make> {
  return definition
}
