import stringWidth from 'string-width'

/** What is between two columns. */
const GAP = '  '

/**
 * Lays rows out in columns, each as wide as its widest cell at a terminal: colors take no room, and wide characters take two.
 *
 * @param rows cells of one line each; the first row may be a head
 * @returns one line for each row, without spaces at its end
 */
export function columns(rows: readonly (readonly string[])[]): string {
  const widthOf = (at: number) => Math.max(...rows.map((row) => stringWidth(row[at] ?? '')))
  const widths = (rows[0] ?? []).map((_, at) => widthOf(at))
  const padded = (cell: string, at: number) => cell + ' '.repeat(Math.max(0, (widths[at] ?? 0) - stringWidth(cell)))
  return rows.map((row) => row.map(padded).join(GAP).trimEnd()).join('\n')
}
