/**
 * A list that is made anew each time it is read from its beginning. A configuration that several builds use gives each of them members
 * of its own, so that none knows of the values of another.
 *
 * @param make makes the members, always as many
 */
export function makeAnew<T>(make: () => T[]): T[] {
  let current = make()
  const list = [...current]
  for (const at of list.keys())
    Object.defineProperty(list, at, {
      enumerable: true,
      configurable: true,
      get: () => {
        if (at === 0) current = make()
        return current[at]
      },
      set: (value: T) =>
        Object.defineProperty(list, at, { enumerable: true, configurable: true, writable: true, value }),
    })
  return list
}
