import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import { isDayDuration } from '../text/iso-duration.ts'
import { nearestOf } from '../text/near.ts'
import { isVariableName } from '../text/variable-name.ts'
import { convertText, failureProblem } from './convert.ts'
import type { Declaration } from './definition.ts'
import { type Constraint, type ConstraintName, constraints } from './kinds/constraints.ts'
import type { Kind, KindOption, Options } from './kinds/kind.ts'
import { variableName } from './naming.ts'
import type { AnySetting } from './setting.ts'

const isTruth = (value: unknown) => typeof value === 'boolean'
const TRUTH: KindOption = { needed: 'true or false', accepts: isTruth }

/** The options of every kind. A default is checked by the kind itself. */
const COMMON: Readonly<Record<string, KindOption>> = {
  default: { needed: 'a value', accepts: () => true },
  optional: TRUTH,
  secret: TRUTH,
  public: TRUTH,
  name: { needed: 'the name of a variable', accepts: isVariableName },
  allowEmpty: TRUTH,
  rotate: { needed: "a duration in days, such as 'P28D' (ISO 8601)", accepts: isDayDuration },
}

/**
 * Puts a setting in its place in a definition and checks everything it says about itself.
 *
 * @param setting what a maker made
 * @param keys the path to it
 * @param prefix what all variable names begin with; a name given by hand is taken as it is
 * @param problems gets everything that is wrong with it
 */
export function declare(
  setting: AnySetting,
  keys: readonly string[],
  prefix: string,
  problems: Problem[],
): Declaration {
  const path = keys.join('.')
  const { kind, description } = setting
  const options = checkOptions(setting, path, problems)
  const name = isVariableName(options.name) ? options.name : variableName(keys, prefix)
  const at = { setting: path, name }
  if (typeof description !== 'string' || description.trim() === '') {
    problems.push(problem('setting-description-missing', { path }, at))
  }
  const declaration: Declaration = {
    path,
    keys,
    name,
    kind,
    description: String(description),
    secret: options.secret === true,
    public: options.public === true,
    optional: options.optional === true,
    allowEmpty: options.allowEmpty === true,
    default: options.default,
    options,
    checks: checksOf(kind.constraints, options),
  }
  if (declaration.secret && declaration.public) problems.push(problem('setting-secret-public', { path }, at))
  if (declaration.default !== undefined) {
    if (declaration.secret) problems.push(problem('setting-secret-default', { path }, at))
    else if (declaration.optional) problems.push(problem('setting-optional-default', { path }, at))
    else checkDefault(declaration, problems)
  }
  return declaration
}

/** Checks each option and gives back those that can be used. */
function checkOptions(setting: AnySetting, path: string, problems: Problem[]): Options {
  const { kind } = setting
  const allowed = knownOptions(kind)
  const usable: Record<string, unknown> = {}
  const given: unknown = setting.options
  if (typeof given !== 'object' || given === null || Array.isArray(given)) {
    problems.push(problem('setting-option-wrong', { path, option: 'options', needed: 'an object' }, { setting: path }))
    return usable
  }
  for (const [option, argument] of Object.entries(given)) {
    const rule = Object.hasOwn(allowed, option) ? allowed[option]! : undefined
    if (rule === undefined) {
      const options = Object.keys(allowed)
      problems.push(
        problem(
          'setting-option-unknown',
          { path, option, options, near: nearestOf(options)(option) },
          { setting: path },
        ),
      )
    } else if (argument !== undefined) {
      if (rule.accepts(argument)) usable[option] = argument
      else problems.push(problem('setting-option-wrong', { path, option, needed: rule.needed }, { setting: path }))
    }
  }
  for (const [option, rule] of Object.entries(kind.options ?? {})) {
    if (rule.required === true && !Object.hasOwn(given, option)) {
      problems.push(problem('setting-option-missing', { path, option, needed: rule.needed }, { setting: path }))
    }
  }
  return usable
}

/** The options of each kind, put together once. */
const known = new WeakMap<Kind, Readonly<Record<string, KindOption>>>()

function knownOptions(kind: Kind): Readonly<Record<string, KindOption>> {
  let options = known.get(kind)
  if (options === undefined) {
    const fitting = kind.constraints.map((name): [string, KindOption] => [name, constraints[name]])
    options = { ...kind.options, ...Object.fromEntries(fitting), ...COMMON }
    known.set(kind, options)
  }
  return options
}

function checksOf(names: readonly ConstraintName[], options: Options): Declaration['checks'] {
  return names
    .filter((name) => options[name] !== undefined)
    .map((name) => (constraints[name] as Constraint).check(options[name] as never) as Declaration['checks'][number])
}

/** A default must be of its kind, keep the rules, and come through conversion from text unchanged. */
function checkDefault(declaration: Declaration, problems: Problem[]): void {
  const { path, name, kind } = declaration
  const place = { setting: path, name }
  if (!kind.accepts(declaration.default)) {
    problems.push(problem('setting-default-wrong', { path, why: `it is not of the kind ${kind.name}.` }, place))
    return
  }
  const text = kind.toText(declaration.default)
  // An empty text is a default that somebody wanted, even where it would count as missing in a file.
  if (text === '') return
  for (const failed of convertText(declaration, text).failures) {
    const why = failureProblem(failed, { name, text, secret: false }).message
    problems.push(problem('setting-default-wrong', { path, why }, place))
  }
}
