/** Deeper values are taken as they are: nothing that walks through them may run out of stack. */
const MAX_DEPTH = 600

/**
 * Copies a value and freezes the copy, with everything in it, so that whoever gets it can change neither it nor what others get.
 * Lists and plain objects are copied; of dates and bytes, which can't be frozen, each call makes another. Instances of other
 * classes, functions, and objects with accessors are the same object as before: only their class knows how to copy them.
 *
 * @param value any value that a setting can have
 * @example
 * ```ts
 * const hosts = copyFrozen(['east', 'west'])
 * Object.isFrozen(hosts) // true
 * ```
 */
export function copyFrozen<T>(value: T): T {
  return typeof value === 'object' && value !== null ? (copy(value, new Map(), 0) as T) : value
}

function copy(value: unknown, copies: Map<object, unknown>, depth: number): unknown {
  if (typeof value !== 'object' || value === null || depth > MAX_DEPTH) return value
  if (copies.has(value)) return copies.get(value)
  if (value instanceof Uint8Array) return Uint8Array.prototype.slice.call(value)
  const isList = Array.isArray(value)
  const isDate = Object.prototype.toString.call(value) === '[object Date]'
  const prototype: unknown = Object.getPrototypeOf(value)
  // By how far the class is from the end of the chain: a class of another realm is another object.
  if (countPrototypes(prototype) > (isList || isDate ? 2 : 1)) return value
  if (isDate) return new Date((value as Date).getTime())
  const members = Object.getOwnPropertyDescriptors(value) as Record<PropertyKey, PropertyDescriptor>
  const keys = Reflect.ownKeys(members)
  if (keys.some((key) => !('value' in members[key]!))) return value
  const copied: object = isList ? [] : Object.create(prototype as object | null)
  copies.set(value, copied)
  for (const key of keys)
    Object.defineProperty(copied, key, { ...members[key], value: copy(members[key]!.value, copies, depth + 1) })
  return Object.freeze(copied)
}

function countPrototypes(prototype: unknown): number {
  return prototype === null ? 0 : 1 + countPrototypes(Object.getPrototypeOf(prototype))
}
