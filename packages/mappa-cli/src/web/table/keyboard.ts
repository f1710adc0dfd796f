/** A key that was pressed, as far as it matters here. */
interface Pressed {
  readonly key: string
  readonly ctrlKey: boolean
  readonly metaKey: boolean
}

/** A page of rows. */
const PAGE = 10

/**
 * Moves the focus within a grid, as the ARIA Authoring Practices have it: arrows, Home and End, with Ctrl to the first and the last cell.
 *
 * @param grid the table
 * @param from the cell with the focus
 * @returns true if the key was one of these
 */
export function moveFocus(grid: HTMLElement, from: HTMLElement, { key, ctrlKey, metaKey }: Pressed): boolean {
  const cell = from.closest<HTMLElement>('[role=gridcell]')
  if (cell === null) return false
  const rows = [...grid.querySelectorAll<HTMLElement>('tbody:not([hidden]) > tr:not([hidden], .group)')]
  const row = rows.findIndex((each) => each.contains(cell))
  const listCells = (index: number) => [...(rows[index]?.querySelectorAll<HTMLElement>('[role=gridcell]') ?? [])]
  const column = listCells(row).indexOf(cell)
  const far = ctrlKey || metaKey
  const last = listCells(row).length - 1
  const goals: Readonly<Record<string, readonly [row: number, column: number]>> = {
    ArrowUp: [row - 1, column],
    ArrowDown: [row + 1, column],
    ArrowLeft: [row, column - 1],
    ArrowRight: [row, column + 1],
    PageUp: [Math.max(0, row - PAGE), column],
    PageDown: [Math.min(rows.length - 1, row + PAGE), column],
    Home: [far ? 0 : row, 0],
    End: [far ? rows.length - 1 : row, last],
  }
  const goal = goals[key]
  if (goal === undefined) return false
  focusCell(grid, listCells(goal[0])[goal[1]])
  return true
}

/** Sees to it that Tab leads to one cell of a grid that can be seen: that one was perhaps filtered out. */
export function keepTabStop(grid: HTMLElement): void {
  const stops = [...grid.querySelectorAll<HTMLElement>('[role=gridcell][tabindex="0"]')]
  const kept = stops.find(isVisible) ?? [...grid.querySelectorAll<HTMLElement>('[role=gridcell]')].find(isVisible)
  for (const each of stops) if (each !== kept) each.tabIndex = -1
  if (kept !== undefined) kept.tabIndex = 0
}

const isVisible = (cell: HTMLElement) => cell.closest('[hidden]') === null

/** Gives a cell the focus; it is then the one that Tab leads to. */
export function focusCell(grid: HTMLElement, cell: HTMLElement | undefined): void {
  if (cell === undefined) return
  for (const each of grid.querySelectorAll<HTMLElement>('[role=gridcell][tabindex="0"]')) each.tabIndex = -1
  cell.tabIndex = 0
  cell.focus()
  cell.scrollIntoView({ block: 'nearest', inline: 'nearest' })
}
