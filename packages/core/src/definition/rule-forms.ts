/** What rules of every form can say. */
export interface RuleOptions {
  /**
   * What to do where the rule is broken; it takes the place of the hint.
   * @default a hint that fits the form
   */
  readonly message?: string
  /**
   * The stages in which the rule holds, by name or pattern, and in those that are like one of them.
   * @default all
   */
  readonly stages?: readonly string[]
}

/**
 * A rule between settings, which it names by their paths. Plain data but for `check`, so that a definition in JSON can have it, too.
 *
 * @example
 * ```ts
 * defineSettings(
 *   { night: { from: setting.integer('First hour'), to: setting.integer('Last hour') } },
 *   { rules: [{ ascending: ['night.from', 'night.to'], message: 'A night ends after it begins.' }] },
 * )
 * ```
 */
export type SettingsRule<Path extends string = string> = RuleOptions &
  (
    | {
        /** Numbers or dates, each smaller than the next. What is not set is left out. */
        readonly ascending: readonly Path[]
        /**
         * True if two next to each other may be equal.
         * @default false
         */
        readonly orEqual?: boolean
      }
    /** Optional settings of which one has to be set, and no other. */
    | { readonly exactlyOne: readonly Path[] }
    /** Optional settings of which one has to be set, or several. */
    | { readonly atLeastOne: readonly Path[] }
    /** Optional settings that are all set, or none of them. */
    | { readonly allOrNone: readonly Path[] }
    | {
        /** Numbers whose sum has limits. What is not set counts as 0. */
        readonly sum: readonly Path[]
        /**
         * The smallest sum; for kinds with units also as text, such as `1h`.
         * @default none
         */
        readonly minimum?: number | string
        /**
         * The largest sum, written likewise.
         * @default none
         */
        readonly maximum?: number | string
      }
    | {
        /** Gets the values of the settings in `of`, in their order, and returns true or what is wrong. Asked where all have valid values. */
        // biome-ignore lint/suspicious/noExplicitAny: a function says itself what it takes
        readonly check: (...values: any[]) => true | string
        readonly of: readonly Path[]
      }
  )

/** The forms of rules, by the option that names the settings. */
export type RuleForm = 'ascending' | 'exactlyOne' | 'atLeastOne' | 'allOrNone' | 'sum' | 'check'

/** A rule that can be used. */
export interface RuleBetween {
  readonly form: RuleForm
  readonly paths: readonly string[]
  readonly orEqual: boolean
  readonly minimum: number | null
  readonly maximum: number | null
  readonly check: ((...values: unknown[]) => unknown) | null
  readonly message: string | null
  /** The stages in which it holds; `null` for all. */
  readonly stages: readonly string[] | null
}

/** The forms that are about whether settings are set. */
export const PRESENCE: ReadonlySet<RuleForm> = new Set(['exactlyOne', 'atLeastOne', 'allOrNone'])

/**
 * True for a rule that holds in a stage.
 *
 * @param lineage the stage with all that it takes rules from
 */
export function isForStage({ stages }: RuleBetween, lineage: readonly string[]): boolean {
  return stages === null || stages.some((each) => lineage.includes(each))
}
