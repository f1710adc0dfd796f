import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { type Declaration, resolveStage } from './definition.ts'
import { describeType, readMembers } from './plain-object.ts'

/** What rules of every form can say. */
export interface RuleOptions {
  /**
   * What to do where the rule is broken; it takes the place of the hint.
   * @default a hint that fits the form
   */
  readonly message?: string
  /**
   * The stages in which the rule holds.
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

const FORMS: Readonly<Record<RuleForm, readonly string[]>> = {
  ascending: ['orEqual'],
  exactlyOne: [],
  atLeastOne: [],
  allOrNone: [],
  sum: ['minimum', 'maximum'],
  check: ['of'],
}

/** The forms that are about whether settings are set. */
export const PRESENCE: ReadonlySet<RuleForm> = new Set(['exactlyOne', 'atLeastOne', 'allOrNone'])

/** What rules are checked against. */
interface Known {
  readonly byPath: ReadonlyMap<string, Declaration>
  readonly stages: readonly string[]
}

/**
 * Reads the rules between settings of a definition.
 *
 * @param given the option as it was given
 * @param reporter is told everything that is wrong
 */
export function readRules(
  given: unknown,
  settings: readonly Declaration[],
  stages: readonly string[],
  reporter: Reporter,
): readonly RuleBetween[] {
  if (!Array.isArray(given)) {
    reporter.report(problem('rules-wrong', { found: describeType(given) }))
    return []
  }
  const known = { byPath: new Map(settings.map((each) => [each.path, each])), stages }
  return given.flatMap((each: unknown, at) => {
    const reading = new RuleReading(`rule ${at + 1}`, known)
    const rule = reading.read(each)
    for (const fault of reading.faults) reporter.report(fault)
    return rule === null || reading.faults.length > 0 ? [] : [rule]
  })
}

/** Reads one rule. */
class RuleReading {
  readonly faults: Problem[] = []
  readonly #title: string
  readonly #known: Known

  constructor(title: string, known: Known) {
    this.#title = title
    this.#known = known
  }

  read(given: unknown): RuleBetween | null {
    const members = readMembers(given)
    if (members === null || members.faults.length > 0) {
      this.faults.push(problem('options-not-object', { where: this.#title, found: describeType(given) }))
      return null
    }
    const options = new Map(members.entries.filter(([, value]) => value !== undefined))
    const forms = (Object.keys(FORMS) as RuleForm[]).filter((each) => options.has(each))
    const [form] = forms
    if (form === undefined || forms.length > 1) {
      this.faults.push(problem('rule-form-wrong', { rule: this.#title, forms: Object.keys(FORMS) }))
      return null
    }
    this.#checkNames(form, [...options.keys()])
    const paths = this.#readPaths(form, options.get(form === 'check' ? 'of' : form))
    const check = options.get('check')
    if (form === 'check' && typeof check !== 'function') this.#refuse('check', 'a function')
    return {
      form,
      paths,
      orEqual: this.#readOption(options.get('orEqual'), 'orEqual', 'true or false', isTruth) ?? false,
      minimum: form === 'sum' ? this.#readLimit(options, 'minimum', paths) : null,
      maximum: form === 'sum' ? this.#readLimit(options, 'maximum', paths) : null,
      check: typeof check === 'function' ? (check as RuleBetween['check']) : null,
      message: this.#readOption(options.get('message'), 'message', 'a text', isText),
      stages: this.#readOption(options.get('stages'), 'stages', `a list of ${this.#known.stages.join(', ')}`, (value) =>
        isTextList(value, (each) => this.#known.stages.includes(each)),
      ),
    }
  }

  #refuse(option: string, needed: string): void {
    this.faults.push(problem('setting-option-wrong', { path: this.#title, option, needed }))
  }

  #checkNames(form: RuleForm, names: readonly string[]): void {
    const options = [form, ...FORMS[form], 'message', 'stages']
    for (const option of names.filter((each) => !options.includes(each))) {
      const near = makeClosestMatch(options)(option)
      this.faults.push(problem('setting-option-unknown', { path: this.#title, option, options, near }))
    }
    const isUnlimited = form === 'sum' && !names.includes('minimum') && !names.includes('maximum')
    if (isUnlimited) {
      const needed = 'the smallest or the largest sum, or both'
      this.faults.push(problem('setting-option-missing', { path: this.#title, option: 'maximum', needed }))
    }
  }

  #readOption<T>(value: unknown, option: string, needed: string, isValid: (value: unknown) => value is T): T | null {
    if (value === undefined) return null
    if (isValid(value)) return value
    this.#refuse(option, needed)
    return null
  }

  #readPaths(form: RuleForm, given: unknown): readonly string[] {
    const option = form === 'check' ? 'of' : form
    const least = form === 'check' || form === 'sum' ? 1 : 2
    if (!isTextList(given, () => true) || given.length < least || new Set(given).size < given.length) {
      this.#refuse(option, `a list of at least ${least} different paths of settings, such as night.from`)
      return []
    }
    for (const path of given) this.#checkPath(form, path)
    if (form === 'ascending' || form === 'sum') this.#checkKinds(form, given)
    return given
  }

  #checkPath(form: RuleForm, path: string): void {
    const { byPath } = this.#known
    const declaration = byPath.get(path)
    const place = { setting: path }
    if (declaration === undefined) {
      const near = makeClosestMatch([...byPath.keys()])(path)
      this.faults.push(problem('rule-setting-unknown', { path: this.#title, rule: form, other: path, near }, place))
    } else if (PRESENCE.has(form) && !declaration.optional) {
      this.faults.push(problem('rule-needs-optional', { path, rule: form }, place))
    }
  }

  /** Only numbers have a sum, and only numbers and dates an order; those of different units have neither. */
  #checkKinds(form: 'ascending' | 'sum', paths: readonly string[]): void {
    const declarations = paths.flatMap((path) => this.#known.byPath.get(path) ?? [])
    const scales = declarations.map(({ kind }) => SCALES[kind.name] ?? null)
    const wrong = scales.findIndex(
      (scale) => scale === null || scale !== scales[0] || (form === 'sum' && scale === 'date'),
    )
    if (wrong < 0) return
    const { path, kind } = declarations[wrong]!
    const needed = form === 'sum' ? 'numbers of one unit' : 'numbers of one unit, or dates'
    this.faults.push(
      problem(
        'rule-kind-wrong',
        { path, kind: kind.name, rule: `${form} of ${this.#title}`, needed },
        { setting: path },
      ),
    )
  }

  #readLimit(options: ReadonlyMap<string, unknown>, option: string, paths: readonly string[]): number | null {
    const given = options.get(option)
    if (given === undefined) return null
    const kind = this.#known.byPath.get(paths[0] ?? '')?.kind
    const read = typeof given === 'string' && kind?.readsText === true ? kind.convert(given, {}) : { value: given }
    if ('value' in read && typeof read.value === 'number' && Number.isFinite(read.value)) return read.value
    this.#refuse(option, 'a number, or a text of the kind of the settings')
    return null
  }
}

/** What values of a kind are measured in. */
const SCALES: Readonly<Record<string, string>> = {
  integer: 'number',
  number: 'number',
  port: 'number',
  duration: 'milliseconds',
  size: 'bytes',
  dateTime: 'date',
}

const isTruth = (value: unknown): value is boolean => typeof value === 'boolean'
const isText = (value: unknown): value is string => typeof value === 'string' && value.trim() !== ''

function isTextList(value: unknown, isValid: (each: string) => boolean): value is readonly string[] {
  return Array.isArray(value) && value.length > 0 && value.every((each) => typeof each === 'string' && isValid(each))
}

/** True for a rule that holds in a stage. */
export function isForStage({ stages }: RuleBetween, stage: string): boolean {
  return stages === null || stages.includes(stage)
}

/**
 * A rule in words, for help and references.
 *
 * @param settings those of the definition, for limits that are written in their units
 */
export function describeRule(rule: RuleBetween, settings: readonly Declaration[], stage?: string): string {
  const { form, paths, orEqual, minimum, maximum, stages } = rule
  const first = settings.find(({ path }) => path === paths[0])
  const own = first === undefined || stage === undefined ? first : resolveStage(first, stage)
  const write = (limit: number) =>
    own?.kind.show === true ? own.kind.toText(limit as never, own.options) : String(limit)
  const names = `${paths.slice(0, -1).join(', ')}${paths.length > 1 ? ' and ' : ''}${paths.at(-1)}`
  const limits = [
    ...(minimum === null ? [] : [`at least ${write(minimum)}`]),
    ...(maximum === null ? [] : [`at most ${write(maximum)}`]),
  ].join(' and ')
  const texts: Readonly<Record<RuleForm, string>> = {
    ascending: paths.join(orEqual ? ' ≤ ' : ' < '),
    exactlyOne: `exactly one of ${names} is set`,
    atLeastOne: `at least one of ${names} is set`,
    allOrNone: `${names} are all set, or none of them`,
    sum: `${paths.join(' + ')} is ${limits}`,
    check: `${names} pass a check of the project`,
  }
  return stages === null ? texts[form] : `${texts[form]} (in ${stages.join(' and ')})`
}
