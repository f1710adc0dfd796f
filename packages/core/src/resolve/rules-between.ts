import type { Declaration } from '../definition/definition.ts'
import { CONTAINS_SECRET } from '../definition/failure-problem.ts'
import { check } from '../definition/kinds/check.ts'
import { isForStage, PRESENCE, type RuleBetween, type RuleForm } from '../definition/rule-forms.ts'
import { describeRule } from '../definition/rules-between.ts'
import type { Origin } from '../layers/layer.ts'
import { getDetail, type Problem, type ProblemCode, problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { displayValue } from '../secret/display.ts'
import { addDecimal, getText, parseDecimal } from '../text/decimal.ts'
import type { ResolvedSetting } from './resolved-setting.ts'

/** What the rules of one stage are checked with. */
interface Checking {
  readonly stage: string
  /** The stage with all that it takes rules from. */
  readonly lineage: readonly string[]
  readonly settings: readonly ResolvedSetting[]
  readonly describeOrigin: (origin: Origin) => string
  readonly isSecretInside: (text: string) => boolean
  readonly reporter: Reporter
}

/** Holds settings against each other, as the rules of the definition say. */
export function checkSharedRules(rules: readonly RuleBetween[], checking: Checking): void {
  // Most definitions have none, and every start of a program comes by here.
  if (rules.length === 0) return
  const byPath = new Map(checking.settings.map((each) => [each.declaration.path, each]))
  for (const rule of rules) {
    if (!isForStage(rule, checking.lineage)) continue
    const concerned = rule.paths.map((path) => byPath.get(path)!)
    const broken = findBreach(rule, concerned, checking)
    if (broken !== null) report(rule, concerned, broken, checking)
  }
}

/** How a rule is broken: by which settings, and why, where a check says it. */
interface Breach {
  readonly by: readonly ResolvedSetting[]
  readonly why?: string
}

const isSet = ({ text }: ResolvedSetting) => text !== undefined

function findBreach(rule: RuleBetween, concerned: readonly ResolvedSetting[], checking: Checking): Breach | null {
  const present = concerned.filter(isSet)
  if (PRESENCE.has(rule.form)) return hasEnough(rule.form, present.length, concerned.length) ? null : { by: present }
  // What is wrong with a value by itself has been told.
  if (concerned.some(({ valid }) => !valid)) return null
  if (rule.form === 'ascending') return findDescent(rule, present)
  if (rule.form === 'sum') return findSum(rule, present)
  return present.length < concerned.length ? null : askCheck(rule, concerned, checking)
}

function hasEnough(form: RuleForm, present: number, all: number): boolean {
  if (form === 'exactlyOne') return present === 1
  return form === 'atLeastOne' ? present > 0 : present === 0 || present === all
}

function findDescent({ orEqual }: RuleBetween, present: readonly ResolvedSetting[]): Breach | null {
  for (const [at, later] of present.entries()) {
    const earlier = present[at - 1]
    if (earlier === undefined) continue
    const [from, to] = [Number(earlier.value), Number(later.value)]
    if (from > to || (from === to && !orEqual)) return { by: [earlier, later] }
  }
  return null
}

function findSum({ minimum, maximum }: RuleBetween, present: readonly ResolvedSetting[]): Breach | null {
  // By their digits: 0.1 and 0.2 are 0.3.
  const sum = present.reduce((all, { value }) => addDecimal(all, parseDecimal(String(value))), parseDecimal('0'))
  const value = Number(getText(sum))
  const isKept = (minimum === null || value >= minimum) && (maximum === null || value <= maximum)
  return isKept ? null : { by: present }
}

function askCheck(
  rule: RuleBetween,
  concerned: readonly ResolvedSetting[],
  { isSecretInside }: Checking,
): Breach | null {
  const values = concerned.map(({ value }) => value)
  const answer = check.ask((all: unknown) => rule.check!(...(all as unknown[])) as true | string, values)
  if (!('failure' in answer)) return null
  const isSecret = concerned.some(({ masked, text }) => masked || isSecretInside(text ?? ''))
  const { code, details } = answer.failure
  const why =
    code === 'check-refused' ? String((details as { why: string }).why) : 'it must return true or a text, at once'
  return { by: concerned, why: isSecret ? 'its reason could show a secret' : why }
}

const CODES = {
  ascending: 'not-ascending',
  exactlyOne: 'not-exactly-one',
  atLeastOne: 'not-at-least-one',
  allOrNone: 'not-all-or-none',
  sum: 'sum-out-of-range',
  check: 'rule-refused',
} as const

function report(
  rule: RuleBetween,
  concerned: readonly ResolvedSetting[],
  { by, why }: Breach,
  checking: Checking,
): void {
  const { stage, settings, reporter } = checking
  const declarations = settings.map(({ declaration }) => declaration)
  const names = concerned.map(({ declaration }) => declaration.name)
  const about = by.at(-1) ?? concerned[0]!
  const { file = null, line = null, column = null } = by.at(-1)?.origin ?? {}
  const { name, path } = about.declaration
  const values = by.length === 0 ? 'none of them is set' : by.map((each) => describeValue(each, checking)).join(', ')
  const details = { rule: describeRule(rule, declarations, stage), names, values, why: why ?? '', near: rule.message }
  reporter.report(problem(CODES[rule.form], details, { file, line, column, name, setting: path }))
}

/**
 * True for a broken rule that may be kept where values are set that are absent here, such as secrets in CI.
 *
 * @param settings those of the stage
 * @param isAbsent says which settings may have a value elsewhere
 */
export function mayBeKeptElsewhere(
  broken: Problem,
  settings: readonly ResolvedSetting[],
  isAbsent: (declaration: Declaration) => boolean,
): boolean {
  const names: unknown = PRESENCE_CODES.has(broken.code) ? getDetail(broken, 'names') : null
  if (!Array.isArray(names)) return false
  const concerned = settings.filter(({ declaration }) => names.includes(declaration.name))
  const unset = concerned.filter((each) => !isSet(each))
  const mayCome = unset.filter(({ declaration }) => isAbsent(declaration))
  if (broken.code === 'not-all-or-none') return mayCome.length === unset.length
  return unset.length === concerned.length && mayCome.length > 0
}

const PRESENCE_CODES: ReadonlySet<ProblemCode> = new Set([
  'not-exactly-one',
  'not-at-least-one',
  'not-all-or-none',
] as const)

/** A value with its place: `NIGHT_FROM is "22" (.env:3)`. One that is no secret may still contain one. */
function describeValue(
  { declaration, text, masked, origin }: ResolvedSetting,
  { describeOrigin, isSecretInside }: Checking,
): string {
  const value = text ?? ''
  const shown = !masked && isSecretInside(value) ? CONTAINS_SECRET : displayValue(value, { secret: masked })
  const place = origin === null ? '' : ` (${origin.layer === 'defaults' ? 'the default' : describeOrigin(origin)})`
  return `${declaration.name} is ${shown}${place}`
}
