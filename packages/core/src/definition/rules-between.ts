import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { type Declaration, resolveStage } from './definition.ts'
import { describeType, readMembers } from './plain-object.ts'
import { PRESENCE, type RuleBetween, type RuleForm } from './rule-forms.ts'

const FORMS: Readonly<Record<RuleForm, readonly string[]>> = {
  ascending: ['orEqual'],
  exactlyOne: [],
  atLeastOne: [],
  allOrNone: [],
  sum: ['minimum', 'maximum'],
  check: ['of'],
}

/** What rules are checked against. */
interface Known {
  readonly byPath: ReadonlyMap<string, Declaration>
  readonly stages: readonly string[]
}

/**
 * Reads the rules between settings of a definition.
 *
 * @param given the option as it was given
 * @param stages the stages and patterns that rules can name
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
