import { memo, useEffect, useRef } from 'react'
import { cellClass } from '../../views/cell-words.ts'
import type { Overview, RowView, StageView } from '../../views/overview.ts'
import { CellBody } from './CellBody.tsx'
import type { Changes } from './changes.ts'
import { keepTabStop, moveFocus } from './keyboard.ts'
import { RowHead } from './RowHead.tsx'
import { TableHead } from './TableHead.tsx'

/** A setting in a stage. */
export interface CellPlace {
  readonly setting: string
  readonly stage: string
}

interface SettingsTableProps {
  readonly overview: Overview
  /** The indexes of the columns to show. */
  readonly columns: readonly number[]
  /** The paths of the rows to show. */
  readonly shown: ReadonlySet<string>
  readonly changes: Changes
  readonly selected: CellPlace | null
  readonly onSelect: (place: CellPlace) => void
}

/**
 * The stages side by side, as a grid (ARIA Authoring Practices): one cell is in the order of Tab, arrows lead to the others. Rows that
 * are filtered out stay where they are, hidden: that is quicker than making them again.
 */
export function SettingsTable({ overview, columns, shown, changes, selected, onSelect }: SettingsTableProps) {
  const { groups, stages } = overview
  const grid = useRef<HTMLTableElement>(null)
  useEffect(() => {
    if (grid.current !== null) keepTabStop(grid.current)
  })
  const visible = columns.map((index) => stages[index]!)
  const select = (target: EventTarget) => {
    const { setting, stage } = (target as Element).closest<HTMLElement>('[data-stage]')?.dataset ?? {}
    if (setting !== undefined && stage !== undefined) onSelect({ setting, stage })
  }
  return (
    <table
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: cells can be chosen, which makes a table a grid
      role="grid"
      ref={grid}
      className="settings"
      aria-label="Settings"
      aria-readonly="true"
      onClick={({ target }) => select(target)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === ' ') {
          event.preventDefault()
          select(event.target)
        } else if (moveFocus(event.currentTarget, event.target as HTMLElement, event)) event.preventDefault()
      }}
    >
      <TableHead stages={visible} />
      {groups.map(({ path, rows }) => (
        <tbody key={path} hidden={!rows.some((row) => shown.has(row.path))}>
          {path === '' ? null : (
            <tr className="group">
              <th scope="rowgroup" colSpan={visible.length + 1}>
                {path}
              </th>
            </tr>
          )}
          {rows.map((row, at) => (
            <Row
              key={row.path}
              row={row}
              stages={stages}
              columns={columns}
              isHidden={!shown.has(row.path)}
              changed={changes.get(row.path) ?? ''}
              selected={selected?.setting === row.path ? selected.stage : null}
              isFirst={selected === null && at === 0 && groups[0]?.path === path}
            />
          ))}
        </tbody>
      ))}
    </table>
  )
}

interface RowProps {
  readonly row: RowView
  readonly stages: readonly StageView[]
  readonly columns: readonly number[]
  readonly isHidden: boolean
  /** The indexes of changed cells, joined: compared by text, a row that has not changed is not drawn again. */
  readonly changed: string
  /** The stage whose cell is chosen. */
  readonly selected: string | null
  readonly isFirst: boolean
}

const Row = memo(function Row({ row, stages, columns, isHidden, changed, selected, isFirst }: RowProps) {
  const changedColumns = changed === '' ? [] : changed.split(',').map(Number)
  return (
    <tr hidden={isHidden}>
      <th scope="row">
        <RowHead row={row} />
      </th>
      {columns.map((index, at) => {
        const cell = row.cells[index]!
        const { name } = stages[index]!
        const wasChanged = changedColumns.includes(index)
        const isSelected = selected === name
        return (
          <td
            key={name}
            // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a grid can be chosen
            role="gridcell"
            className={cellClass(cell)}
            tabIndex={isSelected || (isFirst && at === 0) ? 0 : -1}
            aria-selected={isSelected}
            data-setting={row.path}
            data-stage={name}
            data-name={name}
          >
            <span className="hidden">
              {row.name} in {name}:{' '}
            </span>
            <CellBody cell={cell} stage={name} isChanged={wasChanged} />
          </td>
        )
      })}
    </tr>
  )
})
