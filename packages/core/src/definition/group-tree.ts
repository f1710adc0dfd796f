/** Items in their groups, by the keys of their paths. */
export type GroupTree<Item> = Map<string, Item | GroupTree<Item>>

/** Puts items into the groups that their paths name. */
export function groupTree<Item>(items: readonly Item[], keysOf: (item: Item) => readonly string[]): GroupTree<Item> {
  const root: GroupTree<Item> = new Map()
  for (const each of items) {
    const keys = keysOf(each)
    let group = root
    for (const key of keys.slice(0, -1)) {
      const inner = (group.get(key) as GroupTree<Item> | undefined) ?? new Map()
      group.set(key, inner)
      group = inner
    }
    group.set(keys.at(-1)!, each)
  }
  return root
}
