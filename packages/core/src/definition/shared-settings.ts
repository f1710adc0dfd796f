import { MAX_GROUPS, type SettingsTree } from './define.ts'
import { variableName } from './naming.ts'
import { readMembers } from './plain-object.ts'
import { type AnySetting, isSetting, makeSetting } from './setting.ts'

/**
 * A part of a definition that several packages have. Its variable names follow from the paths within it, whatever prefix a package
 * has and whatever group it stands in, so that all packages read the same variables.
 *
 * @param tree settings and groups, as in `defineSettings`
 * @returns the same tree, whose settings have their names; it can be a group of a definition, or be spread into one
 * @example
 * ```ts
 * const site = sharedSettings({ archive: { url: setting.url('Where the archive answers') } })
 * defineSettings({ ...site, dome: { key: setting.string('Key of the dome', { secret: true }) } }, { prefix: 'FERN_' })
 * // the variables are ARCHIVE_URL and FERN_DOME_KEY
 * ```
 */
export function sharedSettings<const Tree extends SettingsTree>(tree: Tree): Tree {
  return named(tree, [], []) as Tree
}

/** What is no tree stays as it is: `defineSettings` says what is wrong with it, and where. */
function named(node: unknown, keys: readonly string[], above: readonly unknown[]): unknown {
  if (isSetting(node)) return withName(node, keys)
  const members = readMembers(node)
  if (members === null || members.faults.length > 0 || above.includes(node) || keys.length > MAX_GROUPS) return node
  const copy = {}
  for (const [key, child] of members.entries) {
    // Defined, not assigned: a key named __proto__ stays a key, and is refused as one.
    Object.defineProperty(copy, key, { value: named(child, [...keys, key], [...above, node]), enumerable: true })
  }
  return copy
}

function withName(setting: AnySetting, keys: readonly string[]): AnySetting {
  const { kind, description, options } = setting
  const members = readMembers(options)
  if (members === null || members.faults.length > 0 || keys.length === 0) return setting
  const given = Object.fromEntries(members.entries)
  return given.name === undefined ? makeSetting(kind, description, { ...given, name: variableName(keys, '') }) : setting
}
