import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import { Reporter } from '../problems/reporter.ts'
import { SettingsError } from '../problems/settings-error.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { isVariableName } from '../text/variable-name.ts'
import { checkRules } from './check-rules.ts'
import { declare } from './declare.ts'
import { DEFINITION, type Declaration, type Definition } from './definition.ts'
import { isPathKey, isStageName } from './naming.ts'
import { isPlainObject } from './plain-object.ts'
import { type AnySetting, isSetting } from './setting.ts'

/** The stages of a definition that names none. */
export const DEFAULT_STAGES: readonly string[] = ['development', 'staging', 'production']

/** What can stand in a definition: settings, and groups of them. */
export interface SettingsTree {
  readonly [key: string]: AnySetting | SettingsTree
}

/** Options of {@link defineSettings}. */
export interface DefinitionOptions {
  /**
   * The stages of the project. The first is used if none is named.
   * @default ['development', 'staging', 'production']
   */
  readonly stages?: readonly string[]
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
}

/** What messages call the definition itself. */
const WHOLE = 'The definition'

const OPTIONS = ['stages', 'prefix', 'directory', 'layersFrom'] as const

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
export function defineSettings<const Tree extends SettingsTree>(
  tree: Tree,
  options: DefinitionOptions = {},
): Definition<Tree> {
  return buildDefinition(tree, options, [])
}

/**
 * Builds a definition, adding its faults to those that were found while its tree was read.
 *
 * @throws {SettingsError} with all faults, those given included
 */
export function buildDefinition<Tree>(
  tree: unknown,
  options: Readonly<Record<keyof DefinitionOptions, unknown>> | DefinitionOptions,
  faults: readonly Problem[],
): Definition<Tree> {
  const reporter = new Reporter(faults)
  const { stages, prefix, directory, layersFrom } = checkOptions(options, reporter)
  const settings: Declaration[] = []
  readTree(tree, [], [], prefix, settings, reporter)
  findSharedNames(settings, reporter)
  checkRules(settings, stages, reporter)
  if (reporter.problems.length > 0) throw new SettingsError({ stage: null, problems: reporter.problems })
  return Object.freeze({
    [DEFINITION]: true as const,
    stages: Object.freeze([...stages]),
    prefix,
    directory,
    layersFrom: Object.freeze([...layersFrom]),
    settings: Object.freeze(settings),
  }) as Definition<Tree>
}

/** The options of a definition, with what can be used in the place of what is wrong. */
interface UsableOptions {
  readonly stages: readonly string[]
  readonly prefix: string
  readonly directory: string | null
  readonly layersFrom: readonly string[]
}

function checkOptions(options: unknown, reporter: Reporter): UsableOptions {
  const isObject = typeof options === 'object' && options !== null
  if (!isObject) reporter.report(problem('options-not-object', { where: 'defineSettings', found: String(options) }))
  const given = (isObject ? options : {}) as Record<string, unknown>
  for (const option of Object.keys(given)) {
    if ((OPTIONS as readonly string[]).includes(option)) continue
    const near = makeClosestMatch(OPTIONS)(option)
    reporter.report(problem('definition-option-unknown', { option, options: OPTIONS, near }))
  }
  const { stages = DEFAULT_STAGES, prefix = '', directory = null, layersFrom = [] } = given
  if (directory !== null && (typeof directory !== 'string' || directory === ''))
    reporter.report(problem('directory-wrong', {}))
  if (prefix !== '' && !(isVariableName(prefix) && /^[A-Za-z]/.test(prefix)))
    reporter.report(problem('prefix-wrong', { prefix: String(prefix) }))
  return {
    stages: checkStages(stages, reporter),
    prefix: String(prefix),
    directory: directory as string | null,
    layersFrom: checkLayerList(layersFrom, reporter),
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

function checkStages(stages: unknown, reporter: Reporter): readonly string[] {
  if (!Array.isArray(stages) || stages.length === 0) {
    reporter.report(problem('stages-wrong', {}))
    return DEFAULT_STAGES
  }
  const seen = new Set<unknown>()
  for (const stage of stages) {
    if (!isStageName(stage)) reporter.report(problem('stage-name-wrong', { stage: String(stage) }))
    else if (seen.has(stage)) reporter.report(problem('stage-name-twice', { stage }))
    seen.add(stage)
  }
  return stages as readonly string[]
}

function readTree(
  node: unknown,
  keys: readonly string[],
  above: readonly unknown[],
  prefix: string,
  settings: Declaration[],
  reporter: Reporter,
): void {
  const path = keys.join('.')
  if (isSetting(node)) {
    if (keys.length > 0) settings.push(declare(node, keys, prefix, reporter))
    else reporter.report(problem('definition-not-tree', { path: WHOLE, found: 'a single setting' }))
    return
  }
  if (!isPlainObject(node)) {
    reporter.report(
      problem('definition-not-tree', { path: path || WHOLE, found: describeType(node) }, { setting: path }),
    )
    return
  }
  if (above.includes(node)) {
    reporter.report(problem('definition-circular', { path }, { setting: path }))
    return
  }
  const children = Object.keys(node)
  if (children.length === 0 && path !== '') reporter.report(problem('definition-empty', { path }, { setting: path }))
  for (const key of children) {
    const childKeys = [...keys, key]
    const childPath = childKeys.join('.')
    if (!isPathKey(key)) {
      reporter.report(problem('setting-path-wrong', { path: childPath, key }, { setting: childPath }))
    } else {
      readTree(node[key], childKeys, [...above, node], prefix, settings, reporter)
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

function describeType(value: unknown): string {
  if (value === null || value === undefined) return String(value)
  if (Array.isArray(value)) return 'a list'
  return typeof value === 'object' ? 'an object with a class of its own' : `a ${typeof value}`
}
