import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import { isExplosive } from '../text/explosive.ts'
import { isDayDuration } from '../text/iso-duration.ts'
import { nearestOf } from '../text/near.ts'
import { isVariableName } from '../text/variable-name.ts'
import { convertText, failureProblem } from './convert.ts'
import type { Declaration } from './definition.ts'
import { type Check, check } from './kinds/check.ts'
import { type Constraint, constraints } from './kinds/constraints.ts'
import type { Failure } from './kinds/failure.ts'
import type { Kind, KindOption, Options } from './kinds/kind.ts'
import { variableName } from './naming.ts'
import type { AnySetting, ReadAt } from './setting.ts'

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
  readAt: { needed: "'build' or 'start'", accepts: (value) => value === 'build' || value === 'start' },
  name: { needed: 'the name of a variable', accepts: isVariableName },
  allowEmpty: TRUTH,
  formerly: { needed: 'a list of names of variables', accepts: isListOf(isVariableName) },
  deprecated: { needed: 'true, or what to use instead', accepts: (value) => isTruth(value) || isText(value) },
  check: check.checkOption,
  stages: { needed: 'an object with rules for single stages', accepts: isObjectOf(isObjectOf(() => true)) },
  requiredIn: { needed: 'a list of stages', accepts: isListOf(isText) },
  requiredWhere: {
    needed: "the values of other settings, such as { 'dome.motors': true }",
    accepts: isObjectOf(() => true),
  },
  forbiddenWhere: {
    needed: "the values of other settings, such as { 'dome.motors': true }",
    accepts: isObjectOf(() => true),
  },
  distinct: TRUTH,
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
  const options = checkOptions(kind, setting.options, path, problems)
  const name = isVariableName(options.name) ? options.name : variableName(keys, prefix)
  const at = { setting: path, name }
  if (typeof description !== 'string' || description.trim() === '') {
    problems.push(problem('setting-description-missing', { path }, at))
  }
  const declaration: Declaration = {
    path,
    keys,
    name,
    formerly: (options.formerly as string[] | undefined) ?? NONE,
    kind,
    description: String(description),
    secret: options.secret === true,
    public: options.public === true,
    readAt: options.public === true ? ((options.readAt as ReadAt | undefined) ?? 'build') : null,
    optional: options.optional === true,
    allowEmpty: options.allowEmpty === true,
    default: options.default,
    options,
    stages: NO_STAGES,
    checks: checksOf(kind, options),
  }
  checkDeclaration(declaration, problems)
  const stages = stagesOf(declaration, problems)
  return stages === NO_STAGES ? declaration : { ...declaration, stages }
}

const NONE: readonly string[] = []
/** The stages of a setting that is the same in all of them. */
export const NO_STAGES: Declaration['stages'] = {}

function checkDeclaration(declaration: Declaration, problems: Problem[]): void {
  const { path, name } = declaration
  const at = { setting: path, name }
  if (declaration.secret && declaration.public) problems.push(problem('setting-secret-public', { path }, at))
  if (declaration.options.readAt !== undefined && !declaration.public)
    problems.push(problem('read-at-needs-public', { path }, at))
  if (declaration.default !== undefined) {
    if (declaration.secret) problems.push(problem('setting-secret-default', { path }, at))
    else if (declaration.optional) problems.push(problem('setting-optional-default', { path }, at))
    else checkDefault(declaration, problems)
  }
  if (!declaration.optional) checkNeedsOptional(declaration, problems)
}

/** Rules that say when there must be a value are for settings that may have none. */
function checkNeedsOptional({ path, name, options }: Declaration, problems: Problem[]): void {
  if (options.requiredIn === undefined && options.requiredWhere === undefined && options.forbiddenWhere === undefined)
    return
  const at = { setting: path, name }
  for (const rule of ['requiredIn', 'requiredWhere', 'forbiddenWhere']) {
    if (options[rule] !== undefined) problems.push(problem('rule-needs-optional', { path, rule }, at))
  }
}

/** The setting in each stage that has rules of its own, or in which it is required. */
function stagesOf(declaration: Declaration, problems: Problem[]): Declaration['stages'] {
  const { path, kind, options } = declaration
  // Most settings are the same everywhere, and every start of a program comes by here.
  if (options.stages === undefined && options.requiredIn === undefined) return NO_STAGES
  const given = (options.stages ?? {}) as Readonly<Record<string, Options>>
  const required = (options.requiredIn as string[] | undefined) ?? NONE
  const names = new Set([...Object.keys(given), ...required])
  if (names.size === 0) return NO_STAGES
  const found: Record<string, Declaration> = {}
  for (const stage of names) {
    const own = checkOptions(kind, given[stage] ?? {}, `${path} in ${stage}`, problems, STAGED)
    if (own.optional === true) {
      const needed = 'false: a program that counts on a value can not do without it in one stage'
      problems.push(
        problem('setting-option-wrong', { path: `${path} in ${stage}`, option: 'optional', needed }, { setting: path }),
      )
    }
    const optional = required.includes(stage) || own.default !== undefined ? { optional: false } : {}
    const all: Options = { ...options, ...optional, ...own, requiredIn: undefined }
    const merged: Declaration = {
      ...declaration,
      optional: all.optional === true,
      default: all.default,
      options: all,
      checks: checksOf(kind, all),
    }
    if (own.default !== undefined || own.optional === false) checkDefaultOf(merged, problems)
    found[stage] = merged
  }
  return found
}

function checkDefaultOf(declaration: Declaration, problems: Problem[]): void {
  const { path, name, secret } = declaration
  if (declaration.default === undefined) return
  if (secret) problems.push(problem('setting-secret-default', { path }, { setting: path, name }))
  else checkDefault(declaration, problems)
}

/** Checks each option and gives back those that can be used. */
function checkOptions(
  kind: Kind,
  given: unknown,
  path: string,
  problems: Problem[],
  only?: ReadonlySet<string>,
): Options {
  const known = knownOptions(kind)
  const allowed =
    only === undefined
      ? known
      : Object.fromEntries(Object.entries(known).filter(([each]) => only.has(each) || !(each in COMMON)))
  const usable: Record<string, unknown> = {}
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
      if (option === 'pattern' && rule.accepts(argument) && isExplosive(sourceOf(argument))) {
        problems.push(problem('pattern-explosive', { path, pattern: sourceOf(argument) }, { setting: path }))
      } else if (rule.accepts(argument)) usable[option] = argument
      else problems.push(problem('setting-option-wrong', { path, option, needed: rule.needed }, { setting: path }))
    }
  }
  if (only !== undefined) return usable
  if (kind.oneOf?.every((option) => !Object.hasOwn(given, option))) {
    const details = { path, option: kind.oneOf.join(' or '), needed: 'one of the two' }
    problems.push(problem('setting-option-missing', details, { setting: path }))
  }
  for (const [option, rule] of Object.entries(kind.options ?? {})) {
    if (rule.required === true && !Object.hasOwn(given, option)) {
      problems.push(problem('setting-option-missing', { path, option, needed: rule.needed }, { setting: path }))
    }
  }
  return usable
}

function sourceOf(pattern: unknown): string {
  return pattern instanceof RegExp ? pattern.source : String(pattern)
}

/** Beside those of the kind, the options that can be different in one stage. */
const STAGED: ReadonlySet<string> = new Set(['default', 'optional'])

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

function checksOf({ constraints: names, show, toText }: Kind, options: Options): Declaration['checks'] {
  const checks: Declaration['checks'][number][] = []
  for (const name of names) {
    if (options[name] === undefined) continue
    const check = (constraints[name] as Constraint).check(options[name] as never) as Declaration['checks'][number]
    checks.push(show === true ? (value) => shown(check(value), (limit) => toText(limit, options)) : check)
  }
  const own = options.check as Check<unknown> | undefined
  if (own !== undefined) {
    checks.push((value) => {
      const answer = check.ask(own, value)
      return 'failure' in answer ? answer.failure : null
    })
  }
  return checks
}

/** A failure whose limits are told as texts of the kind, `15m` for example. */
function shown(failed: Failure | null, toText: (value: unknown) => string): Failure | null {
  if (failed === null) return null
  const details = Object.entries(failed.details).map(([key, each]) => [
    key,
    typeof each === 'number' ? toText(each) : each,
  ])
  return { ...failed, details: Object.fromEntries(details) as object }
}

/** A default must be of its kind, keep the rules, and come through conversion from text unchanged. */
function checkDefault(declaration: Declaration, problems: Problem[]): void {
  const { path, name, kind } = declaration
  const place = { setting: path, name }
  if (!kind.accepts(declaration.default)) {
    problems.push(problem('setting-default-wrong', { path, why: `it is not of the kind ${kind.name}.` }, place))
    return
  }
  if (kind.unchecked === true) return
  const text = kind.toText(declaration.default, declaration.options)
  // An empty text is a default that somebody wanted, even where it would count as missing in a file.
  if (text === '') return
  for (const failed of convertText(declaration, text).failures) {
    const why = failureProblem(failed, { name, text, secret: false }).message
    problems.push(problem('setting-default-wrong', { path, why }, place))
  }
}
