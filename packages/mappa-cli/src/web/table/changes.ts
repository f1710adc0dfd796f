import type { CellView, Overview, RowView } from '../../views/overview.ts'

/** What each cell was when the page was opened, by setting and stage. */
export type Baseline = ReadonlyMap<string, string>

/** The indexes of the cells of each setting that are not what they were, joined; settings without such a cell are left out. */
export type Changes = ReadonlyMap<string, string>

/** Keeps what there is now. */
export function toBaseline({ groups }: Overview): Baseline {
  const all = groups.flatMap(({ rows }) =>
    rows.flatMap((row) => row.cells.map((cell, index) => [getKey(row, index), toVersion(cell)] as const)),
  )
  return new Map(all)
}

/** What has changed since. */
export function changesSince(baseline: Baseline, { groups }: Overview): Changes {
  const changes = new Map<string, string>()
  for (const row of groups.flatMap(({ rows }) => rows)) {
    const indexes = row.cells.flatMap((cell, index) => {
      const before = baseline.get(getKey(row, index))
      return before === undefined || before === toVersion(cell) ? [] : [index]
    })
    if (indexes.length > 0) changes.set(row.path, indexes.join())
  }
  return changes
}

/** An overview that shares the rows that have not changed with the one before, so that they need not be drawn again. */
export function shared(before: Overview, after: Overview): Overview {
  const known = new Map(before.groups.flatMap(({ rows }) => rows.map((row) => [row.path, row] as const)))
  const same = (row: RowView): RowView => {
    const other = known.get(row.path)
    return other !== undefined && JSON.stringify(other) === JSON.stringify(row) ? other : row
  }
  return { ...after, groups: after.groups.map((group) => ({ ...group, rows: group.rows.map(same) })) }
}

const getKey = (row: RowView, index: number) => `${index} ${row.path}`

/** What counts as the same: value and layer. That a line moved is no change. */
function toVersion({ mark, origin, shown, state }: CellView): string {
  return JSON.stringify([state, shown, mark, origin?.layer ?? null])
}
