import type { Overview, RowView } from '../../views/overview.ts'
import type { Changes } from './changes.ts'

/** What a person wants to see. */
export interface Filters {
  readonly query: string
  readonly problems: boolean
  readonly secrets: boolean
  readonly changed: boolean
  /** One stage alone; `null` for all. */
  readonly stage: string | null
}

export const NO_FILTERS: Filters = { query: '', problems: false, secrets: false, changed: false, stage: null }

/** The indexes of the columns to show. */
export function shownStages({ stages }: Overview, { stage }: Filters): readonly number[] {
  const all = stages.map((_, index) => index)
  const one = stages.findIndex(({ name }) => name === stage)
  return one < 0 ? all : [one]
}

/** True for a row to show. */
export function isShown(row: RowView, filters: Filters, columns: readonly number[], changes: Changes): boolean {
  const cells = columns.map((index) => row.cells[index]!)
  if (filters.problems && !cells.some(({ severity }) => severity !== null)) return false
  if (filters.secrets && !row.secret) return false
  if (
    filters.changed &&
    !changes
      .get(row.path)
      ?.split(',')
      .some((index) => columns.includes(Number(index)))
  )
    return false
  return matches(row, filters.query)
}

/** Every word has to be somewhere: in the name, the path, the description, or a value. */
function matches(row: RowView, query: string): boolean {
  const words = query
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
  if (words.length === 0) return true
  const texts = [
    row.name,
    row.path,
    row.description,
    ...row.cells.flatMap(({ shown, from }) => [shown ?? '', from ?? '']),
  ]
  const text = texts.join('\n').toLowerCase()
  return words.every((word) => text.includes(word))
}
