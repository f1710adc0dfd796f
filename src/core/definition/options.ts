import { type Problem, problem } from '../problems/problem.ts'
import { closestMatch } from '../text/closest-match.ts'
import { isDayDuration } from '../text/iso-duration.ts'
import { isVariableName } from '../text/variable-name.ts'
import { failureProblem } from './convert.ts'
import { check } from './kinds/check.ts'
import { constraints } from './kinds/constraints.ts'
import type { Kind, KindOption, Options } from './kinds/kind.ts'

const isTruth = (value: unknown) => typeof value === 'boolean'
const isText = (value: unknown) => typeof value === 'string' && value.trim() !== ''
const isListOf = (accepts: (value: unknown) => boolean) => (value: unknown) =>
  Array.isArray(value) && value.length > 0 && value.every(accepts)
const isObjectOf = (accepts: (value: unknown) => boolean) => (value: unknown) =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && Object.values(value).every(accepts)
const TRUTH: KindOption = { needed: 'true or false', accepts: isTruth }

/** The options of every kind. A default is checked by the kind itself. */
const COMMON: Readonly<Record<string, KindOption>> = {
  default: { needed: 'a value', accepts: () => true },
  optional: TRUTH,
  secret: TRUTH,
  public: TRUTH,
  readAt: { needed: "'build' or 'runtime'", accepts: (value) => value === 'build' || value === 'runtime' },
  name: { needed: 'the name of a variable', accepts: isVariableName },
  allowEmpty: TRUTH,
  formerly: { needed: 'a list of names of variables', accepts: isListOf(isVariableName) },
  deprecated: { needed: 'true, or what to use instead', accepts: (value) => isTruth(value) || isText(value) },
  check: check.checkOption,
  stages: { needed: 'an object with rules for single stages', accepts: isObjectOf(isObjectOf(() => true)) },
  requiredIn: { needed: 'a list of stages', accepts: isListOf(isText) },
  requiredIf: {
    needed: "the values of other settings, such as { 'dome.motors': true }",
    accepts: isObjectOf(() => true),
  },
  forbiddenIf: {
    needed: "the values of other settings, such as { 'dome.motors': true }",
    accepts: isObjectOf(() => true),
  },
  distinctAcrossStages: TRUTH,
  rotateEvery: { needed: "a duration in days, such as 'P28D' (ISO 8601)", accepts: isDayDuration },
}

/** What options are given to: a setting, what is different in one stage, or an item of a list. */
export type OptionScope = 'setting' | 'stage' | 'item'

/** Of the options of every kind, those that make sense for a stage, and for an item. */
const IN_SCOPE: Readonly<Record<Exclude<OptionScope, 'setting'>, ReadonlySet<string>>> = {
  stage: new Set(['default', 'optional']),
  item: new Set(['check']),
}

/**
 * Checks each option that was given and returns those that can be used.
 *
 * @param path what messages call the setting
 * @param problems gets everything that is wrong
 */
export function usableOptions(
  kind: Kind,
  given: unknown,
  path: string,
  problems: Problem[],
  scope: OptionScope = 'setting',
): Options {
  const usable: Record<string, unknown> = {}
  const place = { setting: path }
  if (typeof given !== 'object' || given === null || Array.isArray(given)) {
    problems.push(problem('setting-option-wrong', { path, option: 'options', needed: 'an object' }, place))
    return usable
  }
  const allowed = optionsIn(kind, scope)
  for (const [option, argument] of Object.entries(given)) {
    const rule = Object.hasOwn(allowed, option) ? allowed[option]! : undefined
    if (rule === undefined) {
      const options = Object.keys(allowed)
      const details = { path, option, options, near: closestMatch(options)(option) }
      problems.push(problem('setting-option-unknown', details, place))
    } else if (argument !== undefined) {
      const read = kind.readsText === true && typeof argument === 'string' ? fromText(kind, option, argument) : null
      if (read !== null && 'failure' in read) {
        const why = failureProblem(read.failure, { name: option, text: argument as string, secret: false }).message
        problems.push(problem('setting-option-unreadable', { path, option, why }, place))
      } else if (read !== null) usable[option] = read.value
      else if (rule.accepts(argument)) usable[option] = argument
      else problems.push(problem('setting-option-wrong', { path, option, needed: rule.needed }, place))
    }
  }
  if (scope !== 'stage') checkRequired(kind, given, path, problems)
  return usable
}

/** A default or a limit that was written as a text of the kind, such as `28d`; `null` for options that are none. */
function fromText(kind: Kind, option: string, text: string) {
  return option === 'default' || (kind.constraints as readonly string[]).includes(option)
    ? kind.convert(text, {})
    : null
}

function checkRequired(kind: Kind, given: object, path: string, problems: Problem[]): void {
  const place = { setting: path }
  const present = (kind.oneOf ?? []).filter((option) => (given as Options)[option] !== undefined)
  if (kind.oneOf !== undefined && present.length !== 1) {
    const option = kind.oneOf.join(' or ')
    if (present.length === 0)
      problems.push(problem('setting-option-missing', { path, option, needed: 'one of the two' }, place))
    else problems.push(problem('setting-options-exclusive', { path, options: kind.oneOf }, place))
  }
  for (const [option, rule] of Object.entries(kind.options ?? {})) {
    if (rule.required === true && (given as Options)[option] === undefined) {
      problems.push(problem('setting-option-missing', { path, option, needed: rule.needed }, place))
    }
  }
}

/** The options of each kind in each scope, put together once. */
const known = new WeakMap<Kind, Partial<Record<OptionScope, Readonly<Record<string, KindOption>>>>>()

function optionsIn(kind: Kind, scope: OptionScope): Readonly<Record<string, KindOption>> {
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
