import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { meansSame } from '../text/meaning.ts'
import { toPlaceholder } from '../text/placeholder.ts'
import { isVariableName } from '../text/variable-name.ts'
import { acceptText, acceptValue, writeValue } from './accept.ts'
import { collectChecks, findContradiction } from './checks.ts'
import type { Declaration } from './definition.ts'
import { toFailureProblem } from './failure-problem.ts'
import type { Failure } from './kinds/failure.ts'
import type { Options } from './kinds/kind.ts'
import { variableName } from './naming.ts'
import { type SelectedOptions, selectOptions } from './options.ts'
import { readMembers } from './plain-object.ts'
import type { AnySetting } from './setting.ts'
import { findPattern, isStage, listLineage, type StageTree } from './stages.ts'

/** What settings are put into. */
export interface Declaring {
  /** What all variable names begin with; a name given explicitly is taken as it is. */
  readonly prefix: string
  readonly stageTree: StageTree
  /** Is told everything that is wrong. */
  readonly reporter: Reporter
}

/**
 * Puts a setting in its place in a definition and checks everything it says about itself.
 *
 * @param setting what a maker made
 * @param keys the path to it
 */
export function declare(setting: AnySetting, keys: readonly string[], declaring: Declaring): Declaration {
  const { prefix, reporter } = declaring
  const path = keys.join('.')
  const { kind, description } = setting
  const { options, isComplete } = withItems(selectOptions(kind, setting.options, path, reporter), path, reporter)
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
    programs: (options.for as readonly string[] | undefined) ?? null,
    formerOf: null,
    default: undefined,
    options,
    stages: NO_STAGES,
    checks: collectChecks(kind, options),
  }
  checkDeclaration(declaration, reporter)
  // A kind that lacks what it needs, such as the words of a choice, can't tell whether a value is right.
  if (!isComplete) return declaration
  const fallback = acceptDefault(declaration, path, reporter)
  const stages = listStages({ ...declaration, default: fallback }, declaring)
  return fallback === undefined && stages === NO_STAGES ? declaration : { ...declaration, default: fallback, stages }
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
  if (declaration.options.acceptFormerFor !== undefined && !declaration.secret)
    reporter.report(problem('accept-former-needs-secret', { path }, at))
  if (declaration.options.default !== undefined && declaration.optional && !declaration.secret)
    reporter.report(problem('setting-optional-default', { path }, at))
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

/** The setting in each stage that has rules, its own or those of a stage that it is like, or in which it is required. */
function listStages(declaration: Declaration, { stageTree, reporter }: Declaring): Declaration['stages'] {
  const { options } = declaration
  // Most settings are the same everywhere, and every start of a program comes by here.
  if (options.stages === undefined && options.requiredIn === undefined) return NO_STAGES
  const found = new StageRules(declaration, stageTree, reporter).list()
  return Object.keys(found).length === 0 ? NO_STAGES : found
}

/** The rules of one setting in all stages. */
class StageRules {
  readonly #declaration: Declaration
  readonly #tree: StageTree
  readonly #reporter: Reporter
  readonly #given: ReadonlyMap<string, unknown>
  readonly #required: readonly string[]
  /** The setting in each stage that was worked out; `null` where it is the same as in all. */
  readonly #found = new Map<string, Declaration | null>()

  constructor(declaration: Declaration, tree: StageTree, reporter: Reporter) {
    const { stages, requiredIn = NONE } = declaration.options
    this.#declaration = declaration
    this.#tree = tree
    this.#reporter = reporter
    this.#given = new Map(readMembers(stages ?? {})?.entries)
    this.#required = requiredIn
  }

  list(): Declaration['stages'] {
    const { stages, stagePatterns } = this.#tree
    const named = [...this.#given.keys(), ...this.#required]
    for (const stage of new Set(named)) this.#checkName(stage)
    // Without a prototype: a stage can be called like anything that objects have.
    const found: Record<string, Declaration | null> = Object.create(null)
    for (const stage of new Set([...stagePatterns, ...stages, ...named])) {
      const own = this.#resolve(stage)
      // By its name a stage is none of those that a pattern stands for.
      const pattern = own === null && stages.includes(stage) ? findPattern(stagePatterns, stage) : null
      if (own !== null) found[stage] = own
      else if (pattern !== null && Object.hasOwn(found, pattern)) found[stage] = null
    }
    return found
  }

  #checkName(stage: string): void {
    const { path } = this.#declaration
    const { stages, stagePatterns } = this.#tree
    if (isStage(this.#tree, stage) || stagePatterns.includes(stage)) return
    const all = [...stages, ...stagePatterns]
    const details = { path, stage, stages: all, near: makeClosestMatch(all)(stage) }
    this.#reporter.report(problem('rule-stage-unknown', details, { setting: path }))
  }

  #resolve(stage: string): Declaration | null {
    const known = this.#found.get(stage)
    if (known !== undefined) return known
    const [, parent] = listLineage(this.#tree, stage)
    const base = parent === undefined ? null : this.#resolve(parent)
    const hasOwn = this.#given.has(stage) || this.#required.includes(stage)
    const resolved = hasOwn ? this.#merge(stage, base ?? this.#declaration) : base
    this.#found.set(stage, resolved)
    return resolved
  }

  #merge(stage: string, base: Declaration): Declaration {
    const declaration = this.#declaration
    const reporter = this.#reporter
    const title = `${declaration.path} in ${stage}`
    const given = this.#given.get(stage) ?? {}
    const { options: own, isComplete } = selectOptions(declaration.kind, given, title, reporter, 'stage')
    if (!isComplete) return base
    checkStageRules(declaration, own, title, reporter)
    const { requiredIn: _, ...inherited } = base.options
    if (own.default !== undefined && inherited.forbiddenIf !== undefined)
      reporter.report(
        problem('rule-needs-optional', { path: title, rule: 'forbiddenIf' }, { setting: declaration.path }),
      )
    const isRequired = this.#required.includes(stage) || own.default !== undefined
    const all: Options = { ...inherited, ...(isRequired ? { optional: false } : {}), ...own }
    const merged: Declaration = {
      ...declaration,
      optional: all.optional === true,
      options: all,
      checks: collectChecks(declaration.kind, all),
    }
    checkLimits(merged, title, reporter)
    // Also a default for all stages has to keep the rules of this one; where it is wrong in all of them, that has been said.
    const isTold = own.default === undefined && base.options.default !== undefined && base.default === undefined
    return { ...merged, default: isTold ? undefined : acceptDefault(merged, title, reporter) }
  }
}

/** A stage may narrow what a value can be, but neither change its type nor do without it: programs have one type for all stages. */
function checkStageRules({ path, kind, options }: Declaration, own: Options, title: string, reporter: Reporter): void {
  const place = { setting: path }
  if (own.optional === true) {
    const needed = 'false: a program that counts on a value can not do without it in one stage'
    reporter.report(problem('setting-option-wrong', { path: title, option: 'optional', needed }, place))
  }
  for (const [option, { keepsType }] of Object.entries(kind.options ?? {})) {
    if (keepsType === undefined || own[option] === undefined || keepsType.isKept(own[option], options[option])) continue
    const details = { path: title, option, needed: keepsType.expected }
    reporter.report(problem('stage-changes-type', details, place))
  }
}

function checkLimits({ path, options }: Declaration, title: string, reporter: Reporter): void {
  const found = findContradiction(options)
  if (found === null) return
  const [lower, upper] = found
  reporter.report(problem('limits-contradict', { path: title, lower, upper }, { setting: path }))
}

/** A list's options with its items as a setting in full: what they say about themselves is checked and holds. */
function withItems(selected: SelectedOptions, path: string, reporter: Reporter): SelectedOptions {
  const { items } = selected.options as { items?: AnySetting }
  if (items === undefined) return selected
  const title = `${path}, items`
  const { options: own, isComplete } = selectOptions(items.kind, items.options, title, reporter, 'item')
  const found = findContradiction(own)
  if (found !== null) {
    const [lower, upper] = found
    reporter.report(problem('limits-contradict', { path: title, lower, upper }, { setting: path }))
  }
  return {
    options: {
      ...selected.options,
      items: Object.freeze({ ...items, options: own, checks: collectChecks(items.kind, own) }),
    },
    isComplete: selected.isComplete && isComplete,
  }
}

/**
 * Takes the default of a setting: it must be of its kind, keep the rules, and come through conversion from text unchanged.
 *
 * @param title what messages call the setting
 * @returns the default as a program gets it; `undefined` where there is none, or none that can be used
 */
function acceptDefault(declaration: Declaration, title: string, reporter: Reporter): unknown {
  const { path, name, kind, options, secret } = declaration
  const place = { setting: path, name }
  if (options.default === undefined) return undefined
  if (secret) {
    reporter.report(problem('setting-secret-default', { path: title }, place))
    return undefined
  }
  const refuse = (why: string) => reporter.report(problem('setting-default-wrong', { path: title, why }, place))
  const { value, failures } = acceptValue(declaration, options.default)
  const text = writeValue(kind, failures.length === 0 ? value : options.default, options)
  const faults = failures.length === 0 ? findFaultsAsText(declaration, value, text) : failures
  for (const failed of faults) {
    refuse(typeof failed === 'string' ? failed : toFailureProblem(failed, { name, text, secret: false }).message)
  }
  return faults.length === 0 ? value : undefined
}

/** What keeps a default from being the same in a file. */
function findFaultsAsText(declaration: Declaration, value: unknown, text: string): readonly (Failure | string)[] {
  if (text === toPlaceholder(declaration.name))
    return ['it is the placeholder of the example file, which no check lets pass.']
  // Nobody knows the way back from a conversion of the project's own; an empty text has none, and is wanted as it is.
  if (declaration.kind.unchecked === true || text === '') return []
  const read = acceptText(declaration, text)
  if (read.failures.length > 0) return read.failures
  const isSame = meansSame(read.value, value) || declaration.options.schema !== undefined
  return isSame ? [] : ['written as text, it would be read as another value.']
}
