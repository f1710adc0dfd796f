import type { CellView, Overview, RowView } from '../../views/overview.ts'

/** What each cell was when the page was opened, by setting and stage. */
export type Baseline = ReadonlyMap<string, string>

/** Keeps what there is now. */
export function baselineOf({ groups, stages }: Overview): Baseline {
  return new Map(
    groups
      .flatMap(({ rows }) =>
        rows.flatMap((row) => stages.map(({ name }, index) => [keyOf(row, index), versionOf(row.cells[index]!), name])),
      )
      .map(([key, version]) => [key!, version!]),
  )
}

/** True for a cell that is not what it was when the page was opened. */
export function isChanged(row: RowView, index: number, baseline: Baseline): boolean {
  const before = baseline.get(keyOf(row, index))
  return before !== undefined && before !== versionOf(row.cells[index]!)
}

const keyOf = (row: RowView, index: number) => `${index} ${row.path}`

/** What counts as the same: value and layer. That a line moved is no change. */
function versionOf({ mark, origin, shown, state }: CellView): string {
  return JSON.stringify([state, shown, mark, origin?.layer ?? null])
}
