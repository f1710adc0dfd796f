/** True for what `{}` makes, also in another realm: no list, and nothing with a class of its own. */
export function isPlainObject(value: unknown): value is Record<string, unknown> {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false
  const prototype: unknown = Object.getPrototypeOf(value)
  return prototype === null || Object.getPrototypeOf(prototype) === null
}

/** The members of a plain object, read once, so that what an accessor returns later changes nothing. */
export interface Members {
  readonly entries: readonly (readonly [key: string, value: unknown])[]
  /** Members that could not be read, with the reason. */
  readonly faults: readonly { readonly key: string; readonly why: string }[]
}

/**
 * Reads the members of a plain object, those that loops leave out included.
 *
 * @returns `null` for anything that is no plain object: what it inherits would be lost in silence
 */
export function readMembers(value: unknown): Members | null {
  const entries: [string, unknown][] = []
  const faults: { key: string; why: string }[] = []
  const tryReading = (key: string, work: () => void): void => {
    try {
      work()
    } catch (error) {
      faults.push({ key, why: error instanceof Error ? error.message : String(error) })
    }
  }
  let keys: readonly string[] | null = []
  tryReading('', () => {
    keys = isPlainObject(value) ? Object.getOwnPropertyNames(value) : null
  })
  if (keys === null) return null
  for (const key of keys) tryReading(key, () => entries.push([key, (value as Record<string, unknown>)[key]]))
  return { entries, faults }
}

/** What something is, for a message that refuses it. */
export function describeType(value: unknown): string {
  if (value === null || value === undefined) return String(value)
  if (Array.isArray(value)) return 'a list'
  return typeof value === 'object' ? 'an object with a class of its own' : `a ${typeof value}`
}
