import { definitionFileProblem } from '../problems/of-commands.ts'
import type { Problem } from '../problems/problem.ts'
import { closestMatch } from '../text/closest-match.ts'
import { buildDefinition } from './define.ts'
import type { Definition } from './definition.ts'
import { kinds } from './kinds/index.ts'
import type { Kind } from './kinds/kind.ts'
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
  const problems: Problem[] = []
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return buildDefinition(data, {}, problems)
  }
  // `$schema` names the schema of the file, by a convention of editors.
  const { settings, $schema, ...options } = data as Record<string, unknown>
  return buildDefinition(treeOf(settings, [], problems), options as never, problems)
}

function treeOf(node: unknown, keys: readonly string[], problems: Problem[]): unknown {
  if (typeof node !== 'object' || node === null || Array.isArray(node)) return node
  const members = node as Record<string, unknown>
  if (typeof members.kind === 'string') {
    const { kind: name, description, items, ...rest } = members
    const options = items === undefined ? rest : { ...rest, items: itemsOf(items, keys, problems) }
    if (Object.hasOwn(kinds, name as string)) {
      return makeSetting(kinds[name as keyof typeof kinds] as Kind, description, options)
    }
    const names = Object.keys(kinds)
    const path = keys.join('.')
    problems.push(
      definitionFileProblem(
        'setting-kind-unknown',
        { path, kind: name as string, kinds: names, near: closestMatch(names)(name as string) },
        { setting: path },
      ),
    )
    return makeSetting(kinds.string as Kind, description, {})
  }
  const tree = {}
  for (const [key, child] of Object.entries(members)) {
    // Defined, not assigned: a key named __proto__ stays a key, and is refused as one.
    Object.defineProperty(tree, key, { value: treeOf(child, [...keys, key], problems), enumerable: true })
  }
  return tree
}

/** The items of a list: a kind with its options, or its name alone. What they are for, the list says. */
function itemsOf(items: unknown, keys: readonly string[], problems: Problem[]): unknown {
  const given = typeof items === 'string' ? { kind: items } : items
  return treeOf(typeof given === 'object' ? { description: 'An item', ...given } : given, [...keys, 'items'], problems)
}
