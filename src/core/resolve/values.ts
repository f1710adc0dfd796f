import type { Origin } from '../layers/layer.ts'
import { problem } from '../problems/problem.ts'
import { SettingsError } from '../problems/settings-error.ts'
import { Secret } from '../secret/secret.ts'
import { nearestOf } from '../text/near.ts'
import { visible } from '../text/visible.ts'
import type { ResolvedSetting } from './resolved-setting.ts'

/**
 * Names that the language, Node and well-known libraries ask of any object. Asking for one of them is no
 * mistake of the program; its own readings are caught.
 */
const ASKED_OF_ANY_OBJECT = new Set(['then', 'toJSON', 'inspect', 'nodeType', 'tagName', '$$typeof', 'asymmetricMatch'])

/**
 * Builds the tree of values: typed, frozen, secrets wrapped. Reading a name that the definition lacks throws,
 * so that a typo is found in plain JavaScript too.
 *
 * @param settings settings without errors
 * @param originTitle words for where a value came from
 */
export function buildValues(settings: readonly ResolvedSetting[], originTitle: (origin: Origin) => string): object {
  const root: Group = new Map()
  for (const { declaration, value, origin } of settings) {
    let group = root
    for (const key of declaration.keys.slice(0, -1)) {
      const inner = group.get(key) ?? new Map<string, unknown>()
      group.set(key, inner)
      group = inner as Group
    }
    const wrap = declaration.secret && value !== undefined
    // Only a secret tells where it came from.
    const label = wrap && origin !== null ? { from: visible(originTitle(origin)) } : {}
    group.set(declaration.keys.at(-1)!, wrap ? new Secret(value, label) : value)
  }
  const values = guard(root, '')
  origins.set(values, settings)
  return values
}

/** What each tree of values was built from. */
const origins = new WeakMap<object, readonly ResolvedSetting[]>()

/** The settings that a whole tree of values was built from; `undefined` for any other object. */
export function resolvedOf(values: object): readonly ResolvedSetting[] | undefined {
  return origins.get(values)
}

/** A group while it is built; a `Map`, so that it is told apart from a value that is an object. */
type Group = Map<string, unknown>

/** Makes a frozen object of a group and of all groups in it, and has each refuse names that it lacks. */
function guard(group: Group, path: string): object {
  const members: Record<string, unknown> = {}
  for (const [key, value] of group) {
    members[key] = value instanceof Map ? guard(value as Group, `${path}${key}.`) : value
  }
  return new Proxy(Object.freeze(members), {
    get(target, key, receiver) {
      if (typeof key === 'string' && !(key in target) && !ASKED_OF_ANY_OBJECT.has(key)) {
        const near = nearestOf(Object.keys(target))(key)
        const asked = `${path}${key}`
        const suggestion = near === null ? null : `${path}${near}`
        throw new SettingsError({
          title: 'Settings',
          stage: null,
          problems: [problem('setting-unknown', { asked, near: suggestion }, { setting: asked })],
        })
      }
      return Reflect.get(target, key, receiver)
    },
  })
}
