import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { meansSame } from '../text/meaning.ts'
import { toPlaceholder } from '../text/placeholder.ts'
import { isVariableName } from '../text/variable-name.ts'
import { collectChecks, findContradiction } from './checks.ts'
import { convertText, toFailureProblem } from './convert.ts'
import type { Declaration } from './definition.ts'
import type { Options } from './kinds/kind.ts'
import { variableName } from './naming.ts'
import { selectOptions } from './options.ts'
import type { AnySetting } from './setting.ts'

/**
 * Puts a setting in its place in a definition and checks everything it says about itself.
 *
 * @param setting what a maker made
 * @param keys the path to it
 * @param prefix what all variable names begin with; a name given explicitly is taken as it is
 * @param reporter is told everything that is wrong with it
 */
export function declare(setting: AnySetting, keys: readonly string[], prefix: string, reporter: Reporter): Declaration {
  const path = keys.join('.')
  const { kind, description } = setting
  const options = withItems(selectOptions(kind, setting.options, path, reporter), path, reporter)
  const name = isVariableName(options.name) ? options.name : variableName(keys, prefix)
  const at = { setting: path, name }
  if (typeof description !== 'string' || description.trim() === '') {
    reporter.report(problem('setting-description-missing', { path }, at))
  }
  const declaration: Declaration = {
    path,
    keys,
    name,
    formerly: options.formerly ?? NONE,
    kind,
    description: String(description),
    secret: options.secret === true,
    public: options.public === true,
    readAt: options.public === true ? (options.readAt ?? 'build') : null,
    optional: options.optional === true,
    allowEmpty: options.allowEmpty === true,
    default: options.default,
    options,
    stages: NO_STAGES,
    checks: collectChecks(kind, options),
  }
  checkDeclaration(declaration, reporter)
  const stages = listStages(declaration, reporter)
  return stages === NO_STAGES ? declaration : { ...declaration, stages }
}

const NONE: readonly string[] = []
/** The stages of a setting that is the same in all of them. */
export const NO_STAGES: Declaration['stages'] = {}

function checkDeclaration(declaration: Declaration, reporter: Reporter): void {
  const { path, name } = declaration
  checkLimits(declaration, path, reporter)
  const at = { setting: path, name }
  if (declaration.secret && declaration.public) reporter.report(problem('setting-secret-public', { path }, at))
  if (declaration.options.readAt !== undefined && !declaration.public)
    reporter.report(problem('read-at-needs-public', { path }, at))
  if (declaration.default !== undefined) {
    if (declaration.secret) reporter.report(problem('setting-secret-default', { path }, at))
    else if (declaration.optional) reporter.report(problem('setting-optional-default', { path }, at))
    else checkDefault(declaration, path, reporter)
  }
  if (!declaration.optional) checkNeedsOptional(declaration, reporter)
}

/** Rules that say when there must be a value are for settings that may have none. */
function checkNeedsOptional({ path, name, options }: Declaration, reporter: Reporter): void {
  if (options.requiredIn === undefined && options.requiredIf === undefined && options.forbiddenIf === undefined) return
  const at = { setting: path, name }
  for (const rule of ['requiredIn', 'requiredIf', 'forbiddenIf']) {
    if (options[rule] !== undefined) reporter.report(problem('rule-needs-optional', { path, rule }, at))
  }
}

/** The setting in each stage that has rules of its own, or in which it is required. */
function listStages(declaration: Declaration, reporter: Reporter): Declaration['stages'] {
  const { path, kind, options } = declaration
  // Most settings are the same everywhere, and every start of a program comes by here.
  if (options.stages === undefined && options.requiredIn === undefined) return NO_STAGES
  const given = (options.stages ?? {}) as Readonly<Record<string, Options>>
  const required = options.requiredIn ?? NONE
  const names = new Set([...Object.keys(given), ...required])
  if (names.size === 0) return NO_STAGES
  const { requiredIn: _, ...ofAllStages } = options
  // Without a prototype: a stage can be called like anything that objects have.
  const found: Record<string, Declaration> = Object.create(null)
  for (const stage of names) {
    const title = `${path} in ${stage}`
    const own = withItems(selectOptions(kind, given[stage] ?? {}, title, reporter, 'stage'), title, reporter)
    if (own.optional === true) {
      const needed = 'false: a program that counts on a value can not do without it in one stage'
      reporter.report(problem('setting-option-wrong', { path: title, option: 'optional', needed }, { setting: path }))
    }
    const optional = required.includes(stage) || own.default !== undefined ? { optional: false } : {}
    const all: Options = { ...ofAllStages, ...optional, ...own }
    const merged: Declaration = {
      ...declaration,
      optional: all.optional === true,
      default: all.default,
      options: all,
      checks: collectChecks(kind, all),
    }
    checkLimits(merged, title, reporter)
    // Also a default for all stages has to keep the rules of this one.
    checkDeclaredDefault(merged, title, reporter)
    found[stage] = merged
  }
  return found
}

function checkDeclaredDefault(declaration: Declaration, title: string, reporter: Reporter): void {
  const { path, name, secret } = declaration
  if (declaration.default === undefined) return
  if (secret) reporter.report(problem('setting-secret-default', { path: title }, { setting: path, name }))
  else checkDefault(declaration, title, reporter)
}

function checkLimits({ path, options }: Declaration, title: string, reporter: Reporter): void {
  const found = findContradiction(options)
  if (found === null) return
  const [lower, upper] = found
  reporter.report(problem('limits-contradict', { path: title, lower, upper }, { setting: path }))
}

/** A list's options with its items as a setting in full: what they say about themselves is checked and holds. */
function withItems(options: Options, path: string, reporter: Reporter): Options {
  const { items } = options as { items?: AnySetting }
  if (items === undefined) return options
  const title = `${path}, items`
  const own = selectOptions(items.kind, items.options, title, reporter, 'item')
  const found = findContradiction(own)
  if (found !== null) {
    const [lower, upper] = found
    reporter.report(problem('limits-contradict', { path: title, lower, upper }, { setting: path }))
  }
  return { ...options, items: Object.freeze({ ...items, options: own, checks: collectChecks(items.kind, own) }) }
}

/** A default must be of its kind, keep the rules, and come through conversion from text unchanged. */
function checkDefault(declaration: Declaration, title: string, reporter: Reporter): void {
  const { path, name, kind } = declaration
  const place = { setting: path, name }
  const refuse = (why: string) => {
    reporter.report(problem('setting-default-wrong', { path: title, why }, place))
  }
  if (!kind.isValid(declaration.default)) {
    refuse(`it is not of the kind ${kind.name}.`)
    return
  }
  if (kind.unchecked === true) return
  const text = kind.toText(declaration.default, declaration.options)
  // An empty text is a default that somebody wanted, even where it would count as missing in a file.
  if (text === '') return
  if (text === toPlaceholder(name)) refuse('it is the placeholder of the example file, which no check lets pass.')
  const { value, failures } = convertText(declaration, text)
  for (const failed of failures) refuse(toFailureProblem(failed, { name, text, secret: false }).message)
  if (failures.length === 0 && !meansSame(value, declaration.default) && declaration.options.schema === undefined)
    refuse('written as text, it would be read as another value.')
}
