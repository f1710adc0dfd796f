import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import { Reporter } from '../problems/reporter.ts'
import { SettingsError } from '../problems/settings-error.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { isVariableName } from '../text/variable-name.ts'
import { checkRules } from './check-rules.ts'
import { type Declaring, declare } from './declare.ts'
import { DEFINITION, type Declaration, type Definition, type PathsIn } from './definition.ts'
import { declareFormer } from './former-value.ts'
import { isPathKey } from './naming.ts'
import { describeType, type Members, readMembers } from './plain-object.ts'
import { checkPrograms, readPrograms } from './programs.ts'
import type { SettingsRule } from './rule-forms.ts'
import { readRules } from './rules-between.ts'
import { type AnySetting, isSetting } from './setting.ts'
import { DEFAULT_STAGES, readStages, type StageOptions, type StageTree } from './stages.ts'

/** What can stand in a definition: settings, and groups of them. */
export interface SettingsTree {
  readonly [key: string]: AnySetting | SettingsTree
}

/** Options of {@link defineSettings}. */
export interface DefinitionOptions<Path extends string = string, Program extends string = string> {
  /**
   * The stages of the project. The first is used if none is named. As an object, each can be like another one, whose layer files, rules and
   * defaults it has below its own; a name with one `*` stands for any text: `{ staging: {}, 'preview-*': { like: 'staging' } }`.
   * @default ['development', 'staging', 'production']
   */
  readonly stages?: readonly string[] | Readonly<Record<string, StageOptions>>
  /**
   * What all variable names begin with, such as `FERN_`.
   * @default ''
   */
  readonly prefix?: string
  /**
   * A directory with one file for each variable, as orchestrators mount secrets; above all env files. A relative path begins in the
   * directory of the project.
   * @default none
   */
  readonly directory?: string
  /**
   * Directories whose layer files lie below those of the project, lowest first, such as `['../..']` for values that all packages of a
   * repository share. Relative paths, with `/`; they begin in the directory of the project.
   * @default []
   */
  readonly layersFrom?: readonly string[]
  /**
   * True if no program may start without a stage that is named, by an option or the environment: a host on which nobody set one would
   * run with the settings of the first.
   * @default false: a notice tells that the settings of the first stage are used
   */
  readonly requireStage?: boolean
  /**
   * The programs of the project, where they do not all need the same settings: `['web', 'worker']`. A setting says with `for` which of
   * them need it, and a program loads its own with the option `program`.
   * @default []
   */
  readonly programs?: readonly Program[]
  /**
   * Rules between settings: that one is smaller than another, that one of several is set, or whatever a function checks.
   * @default []
   */
  readonly rules?: readonly SettingsRule<Path>[]
}

/** Groups within groups; what is deeper was made by accident, and would run out of stack. */
export const MAX_GROUPS = 50

/** What messages call the definition itself. */
const WHOLE = 'The definition'

const OPTIONS = ['stages', 'prefix', 'directory', 'layersFrom', 'requireStage', 'programs', 'rules'] as const

/**
 * Says what settings there are. Reads nothing and holds no values.
 *
 * @param tree settings made with `setting`, in groups as deep as wanted
 * @returns the definition, from which `loadSettings` and everything else derives
 * @throws {SettingsError} with every fault of the definition, each naming its setting
 * @example
 * ```ts
 * export default defineSettings({
 *   server: { port: setting.port('Port the dome service listens on', { default: 4100 }) },
 *   dome: { key: setting.string('Key the dome controller asks for', { secret: true }) },
 * })
 * ```
 */
export function defineSettings<const Tree extends SettingsTree, const Program extends string = string>(
  tree: Tree,
  options: DefinitionOptions<PathsIn<Tree>, Program> = {},
): Definition<Tree, Program> {
  return buildDefinition(tree, options, [])
}

/**
 * Builds a definition, adding its faults to those that were found while its tree was read.
 *
 * @throws {SettingsError} with all faults, those given included
 */
export function buildDefinition<Tree, Program extends string = string>(
  tree: unknown,
  options: Readonly<Record<keyof DefinitionOptions, unknown>> | DefinitionOptions,
  faults: readonly Problem[],
): Definition<Tree, Program> {
  const reporter = new Reporter(faults)
  const usable = checkOptions(options, reporter)
  const { tree: stageTree, prefix, directory, layersFrom, requireStage, programs, rules } = usable
  const reading = new TreeReading({ prefix, stageTree, reporter })
  reading.read(tree)
  const { settings } = reading
  findSharedNames(settings, reporter)
  checkRules(settings, reporter)
  checkPrograms(settings, programs, reporter)
  const between = readRules(rules, settings, [...stageTree.stages, ...stageTree.stagePatterns], reporter)
  if (reporter.problems.length > 0) throw new SettingsError({ stage: null, problems: reporter.problems })
  return Object.freeze({
    [DEFINITION]: true as const,
    ...freezeStages(stageTree),
    prefix,
    directory,
    layersFrom: Object.freeze([...layersFrom]),
    requireStage,
    rules: Object.freeze(between),
    programs: Object.freeze(programs),
    program: null,
    settings: Object.freeze(settings),
    elsewhere: NOWHERE,
  }) as Definition<Tree, Program>
}

const NOWHERE: readonly Declaration[] = Object.freeze([])

/** The options of a definition, with what can be used in the place of what is wrong. */
interface UsableOptions {
  readonly tree: StageTree
  readonly prefix: string
  readonly directory: string | null
  readonly layersFrom: readonly string[]
  readonly requireStage: boolean
  readonly programs: readonly string[]
  readonly rules: unknown
}

function checkOptions(options: unknown, reporter: Reporter): UsableOptions {
  const members = readMembers(options)
  if (members === null)
    reporter.report(problem('options-not-object', { where: 'defineSettings', found: describeType(options) }))
  for (const { key, why } of members?.faults ?? [])
    reporter.report(problem('definition-unreadable', { path: `The option ${key || 'object'} of the definition`, why }))
  const given: Record<string, unknown> = Object.fromEntries(members?.entries ?? [])
  for (const option of Object.keys(given)) {
    if ((OPTIONS as readonly string[]).includes(option)) continue
    const near = makeClosestMatch(OPTIONS)(option)
    reporter.report(problem('definition-option-unknown', { option, options: OPTIONS, near }))
  }
  const {
    stages = DEFAULT_STAGES,
    prefix = '',
    directory = null,
    layersFrom = [],
    requireStage = false,
    programs = [],
    rules = [],
  } = given
  if (typeof requireStage !== 'boolean') reporter.report(problem('require-stage-wrong', {}))
  if (directory !== null && (typeof directory !== 'string' || directory === ''))
    reporter.report(problem('directory-wrong', {}))
  if (prefix !== '' && !(isVariableName(prefix) && /^[A-Za-z]/.test(prefix)))
    reporter.report(problem('prefix-wrong', { prefix: String(prefix) }))
  return {
    tree: readStages(stages, reporter),
    prefix: String(prefix),
    directory: directory as string | null,
    layersFrom: checkLayerList(layersFrom, reporter),
    requireStage: requireStage === true,
    programs: readPrograms(programs, reporter),
    rules,
  }
}

/** Directories as they are written in origins: without `./`, and without a slash at the end. */
function checkLayerList(given: unknown, reporter: Reporter): readonly string[] {
  if (!Array.isArray(given)) {
    reporter.report(problem('layers-from-wrong', { directory: describeType(given) }))
    return []
  }
  const seen: string[] = []
  for (const directory of given as unknown[]) {
    const path = typeof directory === 'string' && isRelative(directory) ? normalizeDirectory(directory) : null
    if (path === null) reporter.report(problem('layers-from-wrong', { directory: quote(directory) }))
    else if (path === '') reporter.report(problem('layers-from-own', { directory: quote(directory) }))
    else if (seen.includes(path)) reporter.report(problem('layers-from-twice', { directory: quote(directory) }))
    else seen.push(path)
  }
  return seen
}

/** A definition is committed, and an absolute path is that of one machine; a backslash separates nothing on most systems. */
function isRelative(directory: string): boolean {
  return directory.trim() !== '' && !/^[/~]|^[A-Za-z]:|[\\\0-\x1f]/.test(directory)
}

function normalizeDirectory(directory: string): string {
  const parts: string[] = []
  for (const part of directory.split('/')) {
    if (part === '' || part === '.') continue
    if (part === '..' && parts.length > 0 && parts.at(-1) !== '..') parts.pop()
    else parts.push(part)
  }
  return parts.join('/')
}

function quote(value: unknown): string {
  return typeof value === 'string' ? JSON.stringify(value) : describeType(value)
}

function freezeStages({ stages, stagePatterns, stageLikes }: StageTree): StageTree {
  return {
    stages: Object.freeze([...stages]),
    stagePatterns: Object.freeze([...stagePatterns]),
    stageLikes: Object.freeze(stageLikes),
  }
}

/** Reads a definition into the list of its settings. */
class TreeReading {
  readonly settings: Declaration[] = []
  readonly #declaring: Declaring
  readonly #reporter: Reporter

  constructor(declaring: Declaring) {
    this.#declaring = declaring
    this.#reporter = declaring.reporter
  }

  /**
   * Reads a setting, or a group with all that is in it.
   *
   * @param above the groups in which it is
   */
  read(node: unknown, keys: readonly string[] = [], above: readonly unknown[] = []): void {
    const path = keys.join('.')
    const place = { setting: path }
    if (isSetting(node)) {
      if (keys.length > 0) this.#add(declare(node, keys, this.#declaring))
      else this.#reporter.report(problem('definition-not-tree', { path: WHOLE, found: 'a single setting' }))
      return
    }
    const members = readMembers(node)
    if (members === null)
      this.#reporter.report(problem('definition-not-tree', { path: path || WHOLE, found: describeType(node) }, place))
    else if (above.includes(node)) this.#reporter.report(problem('definition-circular', { path }, place))
    else if (keys.length > MAX_GROUPS)
      this.#reporter.report(problem('definition-too-deep', { path: keys[0]!, most: MAX_GROUPS }, place))
    else this.#readGroup(members, keys, [...above, node])
  }

  #add(declaration: Declaration): void {
    this.settings.push(declaration)
    if (declaration.options.acceptFormerFor !== undefined) this.settings.push(declareFormer(declaration))
  }

  #readGroup({ entries, faults }: Members, keys: readonly string[], above: readonly unknown[]): void {
    const path = keys.join('.')
    if (entries.length + faults.length === 0 && path !== '')
      this.#reporter.report(problem('definition-empty', { path }, { setting: path }))
    for (const { key, why } of faults) {
      const broken = [...keys, key].filter((each) => each !== '').join('.')
      this.#reporter.report(problem('definition-unreadable', { path: broken || WHOLE, why }, { setting: broken }))
    }
    for (const [key, child] of entries) {
      const childKeys = [...keys, key]
      const childPath = childKeys.join('.')
      if (isPathKey(key)) this.read(child, childKeys, above)
      else this.#reporter.report(problem('setting-path-wrong', { path: childPath, key }, { setting: childPath }))
    }
  }
}

function findSharedNames(settings: readonly Declaration[], reporter: Reporter): void {
  const byName = new Map<string, Declaration>()
  for (const each of settings) {
    take(each.name, each, byName, reporter)
    for (const name of each.formerly) take(name, each, byName, reporter)
  }
}

function take(name: string, each: Declaration, byName: Map<string, Declaration>, reporter: Reporter): void {
  const other = byName.get(name)
  if (other === undefined) byName.set(name, each)
  else {
    reporter.report(
      problem('setting-name-taken', { path: each.path, name, other: other.path }, { setting: each.path, name }),
    )
  }
}
