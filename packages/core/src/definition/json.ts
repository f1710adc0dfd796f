import { problem } from '../problems/problem.ts'
import { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { buildDefinition, MAX_GROUPS } from './define.ts'
import type { Definition } from './definition.ts'
import { kindsByName } from './kinds/by-name.ts'
import type { Kind } from './kinds/kind.ts'
import { stringKind } from './kinds/string.ts'
import { makeSetting } from './setting.ts'

/**
 * Makes a definition from plain data, for programs that are not TypeScript. The content is the same: an object
 * with `settings` and, where wanted, `stages` and `prefix`. An object with a `kind` is a setting; its other
 * members are its description and options. Any other object is a group.
 *
 * @param data what a JSON file held
 * @throws {SettingsError} with every fault of the definition
 * @example
 * ```ts
 * definitionFromJson({
 *   settings: {
 *     server: { port: { kind: 'port', description: 'Port the dome service listens on', default: 4100 } },
 *   },
 * })
 * ```
 */
export function definitionFromJson(data: unknown): Definition {
  const reporter = new Reporter()
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return buildDefinition(data, {}, reporter.problems)
  }
  // `$schema` names the schema of the file, by a convention of editors.
  const { settings, $schema, ...options } = data as Record<string, unknown>
  const tree = toTree(settings, [], reporter)
  return buildDefinition(tree, options as never, reporter.problems)
}

function toTree(node: unknown, keys: readonly string[], reporter: Reporter): unknown {
  // What is too deep is refused with its path, when the definition is built.
  if (typeof node !== 'object' || node === null || Array.isArray(node) || keys.length > MAX_GROUPS) return node
  const members = node as Record<string, unknown>
  if (typeof members.kind === 'string') {
    const { kind: name, description, ...options } = members
    const kind = kindsByName().get(name as string) ?? reportUnknownKind(name as string, keys, reporter)
    for (const [option, { isSetting }] of Object.entries(kind.options ?? {}))
      if (isSetting === true && options[option] !== undefined)
        options[option] = toSetting(options[option], [...keys, option], reporter)
    return makeSetting(kind, description, options)
  }
  const tree = {}
  for (const [key, child] of Object.entries(members)) {
    // Defined, not assigned: a key named __proto__ stays a key, and is refused as one.
    Object.defineProperty(tree, key, { value: toTree(child, [...keys, key], reporter), enumerable: true })
  }
  return tree
}

/** A setting as an option of another, such as the items of a list: a kind with its options, or its name alone. */
function toSetting(given: unknown, keys: readonly string[], reporter: Reporter): unknown {
  const members = typeof given === 'string' ? { kind: given } : given
  // What it is for, the other setting says.
  return toTree(typeof members === 'object' ? { description: 'An item', ...members } : members, keys, reporter)
}

function reportUnknownKind(name: string, keys: readonly string[], reporter: Reporter): Kind {
  const names = [...kindsByName().keys()]
  const path = keys.join('.')
  const details = { path, kind: name, kinds: names, near: makeClosestMatch(names)(name) }
  reporter.report(problem('setting-kind-unknown', details, { setting: path }))
  return stringKind as Kind
}
