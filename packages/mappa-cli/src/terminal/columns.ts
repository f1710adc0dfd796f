const { createRequire } = process.getBuiltinModule('node:module')

/** What nearly all cells are made of, each one column wide, and the colors around it. */
const SIMPLE = /^[ -~°↑–—…≠✗▸→]*$/
const COLORS = /\u001b\[\d+m/g

/** How many columns of a terminal a text takes. */
function stringWidth(text: string): number {
  const plain = text.includes('\u001b') ? text.replace(COLORS, '') : text
  if (SIMPLE.test(plain)) return plain.length
  measure ??= createRequire(import.meta.url)('string-width') as Measure
  return measure(text)
}

type Measure = typeof import('string-width')

/** Loaded for the first text that is not simple: few commands ever meet one. */
let measure: Measure | undefined

/** What is between two columns. */
const GAP = '  '

/**
 * Lays rows out in columns, each as wide as its widest cell at a terminal: colors take no room, and wide characters take two.
 *
 * @param rows cells of one line each; the first row may be a head
 * @returns one line for each row, without spaces at its end
 */
export function columns(rows: readonly (readonly string[])[]): string {
  const getWidth = (at: number) => Math.max(...rows.map((row) => stringWidth(row[at] ?? '')))
  const widths = (rows[0] ?? []).map((_, at) => getWidth(at))
  const padded = (cell: string, at: number) => cell + ' '.repeat(Math.max(0, (widths[at] ?? 0) - stringWidth(cell)))
  return rows.map((row) => row.map(padded).join(GAP).trimEnd()).join('\n')
}

/**
 * Cuts cells in the middle until the rows fit, always in the column that is the widest.
 *
 * @param rows cells of one line each, without colors
 * @param width in characters
 * @param narrowest how narrow the first columns may become, in characters
 * @returns the same rows; a column is never made narrower than its head
 */
export function fitted(
  rows: readonly (readonly string[])[],
  width: number,
  narrowest: readonly number[],
): readonly (readonly string[])[] {
  const [head = []] = rows
  const widths = head.map((_, at) => Math.max(...rows.map((row) => stringWidth(row[at] ?? ''))))
  const least = head.map((cell, at) => Math.max(narrowest[at] ?? SHORTEST_CUT, stringWidth(cell)))
  const total = () => widths.reduce((sum, each) => sum + each, GAP.length * (widths.length - 1))
  while (total() > width) {
    const spare = widths.map((each, at) => (each > least[at]! ? each : 0))
    const widest = spare.indexOf(Math.max(...spare))
    if (spare[widest] === 0) break
    widths[widest]!--
  }
  return rows.map((row) => row.map((cell, at) => cutInMiddle(cell, widths[at]!)))
}

/** No cell is cut to fewer characters. */
const SHORTEST_CUT = 5

/** The beginning and the end of a text, with a sign for what is left out. */
function cutInMiddle(text: string, width: number): string {
  if (stringWidth(text) <= width) return text
  const characters = [...text]
  let [head, tail] = [Math.ceil((width - 1) / 2), Math.floor((width - 1) / 2)]
  const cut = () => `${characters.slice(0, head).join('')}…${tail === 0 ? '' : characters.slice(-tail).join('')}`
  // Some characters are two columns wide.
  while (stringWidth(cut()) > width && head + tail > 0) {
    if (head >= tail) head--
    else tail--
  }
  return cut()
}
