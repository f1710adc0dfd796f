import { makeClosestMatch } from '../text/closest-match.ts'

/** What a group of values needs to tell a typo from a probe. */
export interface GroupNames {
  /** The path of the group with a dot behind it; empty for the whole tree. */
  readonly path: string
  /** Other names that people write for a setting, with its path: `DOME_KEY` and `domeKey` for `dome.key`. */
  readonly aliases: ReadonlyMap<string, string>
  /** Is called for a typo and throws. */
  readonly refuse: (asked: string, near: string) => never
}

/**
 * Names that the language, runtimes, frameworks and test runners ask of any object, to learn what it is. Asking for one is
 * never taken for a typo, however much a setting is called like it.
 */
const PROBES = new Set(
  (
    'then catch finally toJSON toJS toObject toArray toDate inspect nodeType nodeName tagName href asymmetricMatch ' +
    'length size pipe next read write end on once emit send stream getReader constructor prototype default render ' +
    'setup props children type key ref name message stack code cause schema data body headers status ' +
    // What servers, loggers and collections have is asked for before something is registered or copied.
    'get set has getter setter use listen listener listeners level levels close closed clone map host fatal error warn ' +
    'info debug trace child serializers bindings method methods options id version entries keys values forEach filter ' +
    'find add delete clear copy equals start stop open state handler handle routes request response fetch call apply bind'
  ).split(' '),
)

/** What a definition can call a setting or a group; all else is a probe. */
const PATH_KEY = /^[A-Za-z][A-Za-z0-9_]*$/

const groups = new WeakMap<object, GroupNames>()

/** How Node asks an object what `console.log` should print. */
const INSPECT = Symbol.for('nodejs.util.inspect.custom')

/**
 * The prototype of all groups. It is asked only for names that a group lacks. As a prototype it leaves groups plain objects,
 * which `structuredClone` and `postMessage` take; a proxy around a group they would refuse.
 */
const PROTOTYPE: object = new Proxy(Object.prototype, {
  get(target, key, group: object) {
    if (key === INSPECT) return withoutPrototype
    if (typeof key === 'string' && !(key in target)) refuseTypo(group, key)
    return Reflect.get(target, key, group)
  },
})

function withoutPrototype(this: object): object {
  return { ...this }
}

/**
 * Makes a frozen group of values that tells typos: reading a name that is close to one of the group, or another way of writing
 * a setting, throws. Any other name it lacks is `undefined`, as in every object: frameworks, loggers and test runners ask
 * objects for names of their own, and no list of those is ever complete.
 *
 * @param members the values and groups by key
 */
export function guardGroup(members: object, names: GroupNames): object {
  const group: object = Object.create(PROTOTYPE, Object.getOwnPropertyDescriptors(members))
  groups.set(group, names)
  return Object.freeze(group)
}

function refuseTypo(group: object, key: string): void {
  const names = groups.get(group)
  if (names === undefined || PROBES.has(key) || !PATH_KEY.test(key)) return
  const { path, aliases, refuse } = names
  const own = makeClosestMatch(Object.keys(group))(key)
  const near = own === null ? aliases.get(key) : path + own
  if (near !== undefined) refuse(path + key, near)
}

/**
 * Other names that people write for a setting: its variable name, and its path in one word.
 *
 * @param settings the keys of each setting, and its variable name if that is known
 */
export function collectAliases(
  settings: readonly { readonly keys: readonly string[]; readonly name: string | null }[],
): ReadonlyMap<string, string> {
  const aliases = new Map<string, string>()
  for (const { keys, name } of settings) {
    const path = keys.join('.')
    const [first = '', ...rest] = keys
    if (rest.length > 0) aliases.set(first + rest.map((key) => key[0]!.toUpperCase() + key.slice(1)).join(''), path)
    if (name !== null) aliases.set(name, path)
  }
  return aliases
}
