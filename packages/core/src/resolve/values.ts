import { hasPlace } from '../definition/former-value.ts'
import type { Origin } from '../layers/layer.ts'
import { problem } from '../problems/problem.ts'
import { settingsError } from '../problems/settings-error.ts'
import { Secret } from '../secret/secret.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'
import { collectAliases, guardGroup } from './guarded.ts'
import type { ResolvedSetting } from './resolved-setting.ts'

/**
 * Builds the tree of values: typed, frozen, secrets wrapped. Reading a name that is close to one of the definition throws,
 * so that a typo is found in plain JavaScript too.
 *
 * @param settings settings without errors
 * @param originTitle words for where a value came from
 */
export function buildValues(settings: readonly ResolvedSetting[], originTitle: (origin: Origin) => string): object {
  const root: Group = new Map()
  const formers = new Map(settings.map((each) => [each.declaration.formerOf, each]))
  for (const { declaration, value, origin } of settings.filter((each) => hasPlace(each.declaration))) {
    let group = root
    for (const key of declaration.keys.slice(0, -1)) {
      const inner = group.get(key) ?? new Map<string, unknown>()
      group.set(key, inner)
      group = inner as Group
    }
    const isWrapped = declaration.secret && value !== undefined
    // Only a secret tells where it came from.
    const label = isWrapped && origin !== null ? { from: escapeInvisible(originTitle(origin)) } : {}
    const former = formers.get(declaration.path)?.value
    group.set(declaration.keys.at(-1)!, isWrapped ? new Secret(value, label, former) : value)
  }
  let aliases: ReadonlyMap<string, string> | undefined
  // Looked up only when a name is missing: a start that finds all of them makes no table.
  const lazily = {
    get: (name: string) => (aliases ??= collectAliases(settings.map((each) => each.declaration))).get(name),
  }
  const values = guard(root, '', lazily as ReadonlyMap<string, string>)
  origins.set(values, settings)
  return values
}

/** What each tree of values was built from. */
const origins = new WeakMap<object, readonly ResolvedSetting[]>()

/** The settings that a whole tree of values was built from; `undefined` for any other object. */
export function getResolved(values: object): readonly ResolvedSetting[] | undefined {
  return origins.get(values)
}

/** A group while it is built; a `Map`, so that it is told apart from a value that is an object. */
type Group = Map<string, unknown>

/** Makes a frozen object of a group and of all groups in it. */
function guard(group: Group, path: string, aliases: ReadonlyMap<string, string>): object {
  const members: Record<string, unknown> = {}
  for (const [key, value] of group) {
    members[key] = value instanceof Map ? guard(value as Group, `${path}${key}.`, aliases) : value
  }
  return guardGroup(members, { path, aliases, refuse })
}

function refuse(asked: string, near: string): never {
  throw settingsError(problem('setting-unknown', { asked, near }, { setting: asked }))
}
