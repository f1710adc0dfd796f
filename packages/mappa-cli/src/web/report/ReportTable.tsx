import { cellClass } from '../../views/cell-words.ts'
import type { Overview } from '../../views/overview.ts'
import { CellBody } from '../table/CellBody.tsx'
import { RowHead } from '../table/RowHead.tsx'
import { TableHead } from '../table/TableHead.tsx'

interface ReportTableProps {
  readonly overview: Overview
  /** The paths of the settings whose details stand below. */
  readonly linked: ReadonlySet<string>
}

/** The stages side by side, to be read. */
export function ReportTable({ overview: { groups, stages }, linked }: ReportTableProps) {
  return (
    <div className="main__table">
      <table className="settings" aria-label="Settings">
        <TableHead stages={stages} />
        {groups.map(({ path, rows }) => (
          <tbody key={path}>
            {path === '' ? null : (
              <tr className="group">
                <th scope="rowgroup" colSpan={stages.length + 1}>
                  {path}
                </th>
              </tr>
            )}
            {rows.map((row) => (
              <tr key={row.path}>
                <th scope="row">
                  {linked.has(row.path) ? (
                    <a href={`#${row.path}`}>
                      <RowHead row={row} />
                    </a>
                  ) : (
                    <RowHead row={row} />
                  )}
                </th>
                {row.cells.map((cell, index) => (
                  <td key={stages[index]!.name} className={cellClass(cell)} data-name={stages[index]!.name}>
                    <CellBody cell={cell} stage={stages[index]!.name} isChanged={false} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        ))}
      </table>
    </div>
  )
}
