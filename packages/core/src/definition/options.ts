import { type Problem, problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { isDayDuration } from '../text/iso-duration.ts'
import { isVariableName } from '../text/variable-name.ts'
import { toFailureProblem } from './failure-problem.ts'
import { check } from './kinds/check.ts'
import { constraints } from './kinds/constraints.ts'
import type { Kind, KindOption, Options } from './kinds/kind.ts'
import { describeType, isPlainObject, readMembers } from './plain-object.ts'

const isTruth = (value: unknown) => typeof value === 'boolean'
const isText = (value: unknown) => typeof value === 'string' && value.trim() !== ''
const isTypedList = (isValid: (value: unknown) => boolean) => (value: unknown) =>
  Array.isArray(value) && value.length > 0 && value.every(isValid)
const isTypedObject = (isValid: (value: unknown) => boolean) => (value: unknown) => {
  const members = readMembers(value)
  return members !== null && members.faults.length === 0 && members.entries.every(([, member]) => isValid(member))
}
const TRUTH: KindOption = { expected: 'true or false', isValid: isTruth }

/** The options of every kind. A default is checked by the kind itself. */
const COMMON: Readonly<Record<string, KindOption>> = {
  default: { expected: 'a value', isValid: () => true },
  optional: TRUTH,
  secret: TRUTH,
  public: TRUTH,
  readAt: { expected: "'build' or 'runtime'", isValid: (value) => value === 'build' || value === 'runtime' },
  for: { expected: 'a list of programs', isValid: isTypedList(isText) },
  name: { expected: 'the name of a variable', isValid: isVariableName },
  allowEmpty: TRUTH,
  formerly: { expected: 'a list of names of variables', isValid: isTypedList(isVariableName) },
  deprecated: { expected: 'true, or what to use instead', isValid: (value) => isTruth(value) || isText(value) },
  check: check.checkOption,
  stages: { expected: 'an object with rules for single stages', isValid: isTypedObject(isPlainObject) },
  requiredIn: { expected: 'a list of stages', isValid: isTypedList(isText) },
  requiredIf: {
    expected: "the values of other settings, such as { 'dome.motors': true }",
    isValid: isTypedObject(() => true),
  },
  forbiddenIf: {
    expected: "the values of other settings, such as { 'dome.motors': true }",
    isValid: isTypedObject(() => true),
  },
  distinctAcrossStages: TRUTH,
  acceptFormerFor: { expected: "a duration in days, such as 'P7D' (ISO 8601)", isValid: isDayDuration },
  rotateEvery: { expected: "a duration in days, such as 'P28D' (ISO 8601)", isValid: isDayDuration },
}

/** What options are given to: a setting, what is different in one stage, or an item of a list. */
export type OptionScope = 'setting' | 'stage' | 'item'

/** Of the options of every kind, those that make sense for a stage, and for an item. */
const IN_SCOPE: Readonly<Record<Exclude<OptionScope, 'setting'>, ReadonlySet<string>>> = {
  stage: new Set(['default', 'optional']),
  item: new Set(['check']),
}

/** The options of a setting that can be used. */
export interface SelectedOptions {
  readonly options: Options
  /** False where the kind lacks an option without which it can't take any value. */
  readonly isComplete: boolean
}

/**
 * Checks each option that was given and returns those that can be used.
 *
 * @param path what messages call the setting
 * @param reporter is told everything that is wrong
 */
export function selectOptions(
  kind: Kind,
  given: unknown,
  path: string,
  reporter: Reporter,
  scope: OptionScope = 'setting',
): SelectedOptions {
  const place = { setting: path }
  const members = readMembers(given)
  if (members === null) {
    reporter.report(problem('options-not-object', { where: path, found: describeType(given) }, place))
    return { options: {}, isComplete: false }
  }
  const usable: Record<string, unknown> = {}
  for (const { key, why } of members.faults)
    reporter.report(problem('setting-option-unreadable', { path, option: key || 'options', why }, place))
  for (const [option, argument] of members.entries) {
    const found = readArgument(kind, option, argument, path, scope)
    if ('problem' in found) reporter.report(found.problem)
    else if (found.value !== undefined) usable[option] = found.value
  }
  const names = new Set(members.entries.filter(([, argument]) => argument !== undefined).map(([option]) => option))
  if (scope !== 'stage') checkRequired(kind, names, path, reporter)
  const isUsable = Object.keys(kind.options ?? {}).every((option) => !names.has(option) || usable[option] !== undefined)
  return { options: usable, isComplete: isUsable && (scope === 'stage' || hasRequired(kind, usable)) }
}

/** True where nothing is missing that a kind can't do without. */
function hasRequired({ oneOf, options = {} }: Kind, usable: Options): boolean {
  const isThere = (option: string) => usable[option] !== undefined
  return (
    (oneOf === undefined || oneOf.filter(isThere).length === 1) &&
    Object.entries(options).every(([option, { required = false }]) => !required || isThere(option))
  )
}

/** An argument that can be used, or what is wrong with it. */
function readArgument(
  kind: Kind,
  option: string,
  argument: unknown,
  path: string,
  scope: OptionScope,
): { readonly value: unknown } | { readonly problem: Problem } {
  const place = { setting: path }
  const allowed = findOptions(kind, scope)
  const rule = Object.hasOwn(allowed, option) ? allowed[option]! : undefined
  if (rule === undefined) {
    const options = Object.keys(allowed)
    const details = { path, option, options, near: makeClosestMatch(options)(option) }
    return { problem: problem('setting-option-unknown', details, place) }
  }
  if (argument === undefined) return { value: undefined }
  const read = fromText(kind, option, argument)
  if ('failure' in read) {
    const why = toFailureProblem(read.failure, { name: option, text: argument as string, secret: false }).message
    return { problem: problem('setting-option-unreadable', { path, option, why }, place) }
  }
  if (rule.isValid(read.value)) return { value: read.value }
  return { problem: problem('setting-option-wrong', { path, option, needed: rule.expected }, place) }
}

/** An argument, converted if it is a default or a limit that was written as a text of the kind, such as `28d`. */
function fromText(kind: Kind, option: string, argument: unknown) {
  const takesText = option === 'default' || (kind.constraints as readonly string[]).includes(option)
  if (kind.readsText !== true || typeof argument !== 'string' || !takesText) return { value: argument }
  return kind.convert(argument, {})
}

function checkRequired(kind: Kind, given: ReadonlySet<string>, path: string, reporter: Reporter): void {
  const place = { setting: path }
  const present = (kind.oneOf ?? []).filter((option) => given.has(option))
  if (kind.oneOf !== undefined && present.length !== 1) {
    const option = kind.oneOf.join(' or ')
    if (present.length === 0)
      reporter.report(problem('setting-option-missing', { path, option, needed: 'one of the two' }, place))
    else reporter.report(problem('setting-options-exclusive', { path, options: kind.oneOf }, place))
  }
  for (const [option, rule] of Object.entries(kind.options ?? {})) {
    if (rule.required === true && !given.has(option)) {
      reporter.report(problem('setting-option-missing', { path, option, needed: rule.expected }, place))
    }
  }
}

/** The options of each kind in each scope, put together once. */
const known = new WeakMap<Kind, Partial<Record<OptionScope, Readonly<Record<string, KindOption>>>>>()

/** The options that a kind has in a scope, by their names. */
export function findOptions(kind: Kind, scope: OptionScope): Readonly<Record<string, KindOption>> {
  const ofKind = known.get(kind) ?? {}
  known.set(kind, ofKind)
  ofKind[scope] ??= {
    ...kind.options,
    ...Object.fromEntries(kind.constraints.map((name): [string, KindOption] => [name, constraints[name]])),
    ...(scope === 'setting'
      ? COMMON
      : Object.fromEntries(Object.entries(COMMON).filter(([option]) => IN_SCOPE[scope].has(option)))),
  }
  return ofKind[scope]
}
