import type { Check } from './kinds/check.ts'
import type { Kind, Options } from './kinds/kind.ts'

/** Marks a setting, also across two copies of this package in one program. */
export const SETTING = Symbol.for('mappa.setting')

declare const types: unique symbol

/** A setting of whatever type. */
export interface AnySetting {
  readonly [SETTING]: true
  readonly kind: Kind
  readonly description: string
  readonly options: Options
}

/**
 * One setting of a definition, not yet placed in it. The type parameters say what a program gets: a `Type`,
 * wrapped in a `Secret` where `IsSecret`, or `undefined` where `IsOptional`; `IsPublic` ones may reach the browser, `At` the
 * build or the start; only the programs `For` get it, all of them where that is `string`.
 */
export interface Setting<
  Type,
  IsSecret extends boolean,
  IsOptional extends boolean,
  IsPublic extends boolean,
  At extends ReadAt = 'build',
  For extends string = string,
> extends AnySetting {
  /** For types alone. */
  readonly [types]?: { type: Type; secret: IsSecret; optional: IsOptional; public: IsPublic; readAt: At; for: For }
}

/**
 * When a page gets a public value: with its `build`, as a literal in the bundle; or at its `start`, from what the server puts
 * into the page.
 */
export type ReadAt = 'build' | 'runtime'

/** The values of other settings, by their paths, under which a rule holds: all of them, each one of those listed. */
export type Conditions = Readonly<Record<string, unknown>>

/** What can be different in one stage. */
export interface StageRules<Type> {
  readonly default?: Type
  /** `false`: an optional setting is required in this stage. */
  readonly optional?: false
  /** Constraints of the kind, in the place of those for all stages. */
  readonly [constraint: string]: unknown
}

/** The options that a setting of any kind can have. */
export interface CommonOptions<
  Type,
  IsSecret extends boolean,
  IsOptional extends boolean,
  IsPublic extends boolean,
  At extends ReadAt,
  Given = Type,
  For extends string = string,
> {
  /**
   * The value if no layer sets one.
   * @default none: the setting is required
   */
  readonly default?: Given
  /**
   * True if the program works without; the value is `undefined` then.
   * @default false
   */
  readonly optional?: IsOptional
  /**
   * True for a value that is never shown, logged or bundled. It arrives as a {@link Secret}.
   * @default false
   */
  readonly secret?: IsSecret
  /**
   * True for a value that may reach the browser.
   * @default false
   */
  readonly public?: IsPublic
  /**
   * When a page gets a public value: `'build'` puts it into the bundle as a literal; with `'runtime'` the page reads it when it is opened,
   * so that one build serves every stage.
   * @default 'build'
   */
  readonly readAt?: At
  /**
   * The programs that need it, of those that the definition lists: `['web', 'worker']`. The others are neither asked for it nor given it.
   * @default all programs
   */
  readonly for?: readonly For[]
  /**
   * The variable name.
   * @default the path in capitals, such as `DOME_KEY` for `dome.key`
   */
  readonly name?: string
  /**
   * Names that the variable had before. They are still accepted, with a notice.
   * @default []
   */
  readonly formerly?: readonly string[]
  /**
   * True, or what to use instead, for a setting that is deprecated; setting it gives a notice.
   * @default false
   */
  readonly deprecated?: boolean | string
  /**
   * A check of your own, after the constraints: a function that returns true or what is wrong, or a schema.
   * @default none
   */
  readonly check?: Check<Type>
  /**
   * What is different in single stages: the default, the constraints, and `optional: false` for what is required there.
   * @default {}
   */
  readonly stages?: Readonly<Record<string, StageRules<Given>>>
  /**
   * The stages in which an optional setting is required.
   * @default []
   */
  readonly requiredIn?: readonly string[]
  /**
   * Requires an optional setting if other settings have these values: `{ 'dome.motors': true }`.
   * @default none
   */
  readonly requiredIf?: Conditions
  /**
   * Forbids an optional setting if other settings have these values.
   * @default none
   */
  readonly forbiddenIf?: Conditions
  /**
   * True if no two stages may have the same value; `mappa check --all` reports those that do, and shows none.
   * @default false
   */
  readonly distinctAcrossStages?: boolean
  /**
   * How long a value may be used before it must be rotated, in days or longer units of ISO 8601: `'P28D'`. `mappa set` records the
   * day in a comment above the entry, and `mappa check` warns when it is overdue.
   * @default none
   */
  readonly rotateEvery?: string
  /**
   * How long the former value of a secret is accepted beside a new one, in days or longer units of ISO 8601: `'P7D'`. It stands in a
   * variable of its own, `DOME_KEY_FORMER`, into which `mappa set` moves it; `Secret.revealAll` gives both, and `mappa check` says when
   * the time is over.
   * @default none: a new value takes the place of the old one at once
   */
  readonly acceptFormerFor?: string
  /**
   * True if an empty text is a value; otherwise it counts as missing.
   * @default false
   */
  readonly allowEmpty?: boolean
}

/** A function that makes settings of one kind; `Given` is what a default may be written as. */
export type Maker<Type, KindOptions = unknown, Given = Type> = <
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
  const For extends string = string,
>(
  description: string,
  options?: CommonOptions<Type, IsSecret, IsOptional, IsPublic, At, Given, For> & KindOptions,
) => Setting<Type, IsSecret, IsOptional, IsPublic, At, For>

/** True for what one of the makers made. */
export function isSetting(value: unknown): value is AnySetting {
  return typeof value === 'object' && value !== null && SETTING in value
}

/** Makes a setting of a kind. What it holds is checked when the definition is made, where its path is known. */
export function makeSetting(kind: Kind, description: unknown, options: unknown): AnySetting {
  return Object.freeze({
    [SETTING]: true as const,
    kind,
    description: description as string,
    options: options === undefined ? {} : (options as Options),
  })
}
