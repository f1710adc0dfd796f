/**
 * A text that is the same for values that mean the same: dates by their time, bytes by their content, data by its members in
 * any order. Two values of different types never share one.
 *
 * Instances of classes are told apart by identity, unless they are dates or bytes.
 *
 * @param value any value that a setting can have
 * @param depth how deep in another value it is; beyond 600 levels, objects are told apart by identity
 * @example
 * ```ts
 * classifyMeaning({ a: 1, b: 2 }) === classifyMeaning({ b: 2, a: 1 }) // true
 * classifyMeaning('1') === classifyMeaning(1)                         // false
 * ```
 */
export function toMeaning(value: unknown, depth = 0): string {
  if (typeof value === 'string') return JSON.stringify(value)
  if (typeof value === 'bigint') return `${value}n`
  if (typeof value === 'number') return Object.is(value, -0) ? '0' : String(value)
  if (typeof value === 'function') return `#${identifyObject(value)}`
  if (typeof value !== 'object' || value === null) return String(value)
  if (value instanceof Date) return `date ${value.getTime()}`
  if (value instanceof Uint8Array) return `bytes ${value.join()}`
  if (Object.prototype.toString.call(value) === '[object URL]') return `url ${JSON.stringify(String(value))}`
  if (depth > 600) return `#${identifyObject(value)}`
  if (Array.isArray(value)) return `[${value.map((each) => toMeaning(each, depth + 1)).join()}]`
  const prototype: unknown = Object.getPrototypeOf(value)
  if (prototype !== null && Object.getPrototypeOf(prototype) !== null) return `#${identifyObject(value)}`
  const members = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))
  return `{${members.map(([key, member]) => `${JSON.stringify(key)}:${toMeaning(member, depth + 1)}`).join()}}`
}

/** True for values that mean the same. */
export function meansSame(a: unknown, b: unknown): boolean {
  return a === b || toMeaning(a) === toMeaning(b)
}

const numbers = new WeakMap<object, number>()
let count = 0

/** A number that tells an object from all others. */
function identifyObject(value: object): number {
  const known = numbers.get(value)
  if (known !== undefined) return known
  numbers.set(value, ++count)
  return count
}
