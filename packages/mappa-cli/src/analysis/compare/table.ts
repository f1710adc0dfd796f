import type { Origin } from '@mappa/core/layers/layer'
import type { Problem, ProblemCode } from '@mappa/core/problems/problem'

/**
 * How a setting stands in one column.
 *
 * - `set`: in a file or a source of the stage itself
 * - `inherited`: in a file of all stages
 * - `default`: its default of the definition
 * - `unset`: optional, and not set
 * - `missing`: required, and not set
 * - `invalid`: set, and it breaks a rule
 */
export type CellState = 'set' | 'inherited' | 'default' | 'unset' | 'missing' | 'invalid'

/** A setting in one column. */
export interface Cell {
  readonly state: CellState
  /** The value as a person may see it; `null` where there is none or it is masked. */
  readonly shown: string | null
  /** For a masked value: equal values have the same mark, which means nothing in another run. */
  readonly mark: string | null
  readonly origin: Origin | null
  /** The codes of all problems of the setting in this column. */
  readonly problems: readonly ProblemCode[]
}

/** An empty value, as a person sees it. */
export const EMPTY = '""'

/** How the values of a setting compare; `unset` where no column has one. */
export type Relation = 'same' | 'different' | 'unset'

/** A setting in all columns. */
export interface Row {
  readonly name: string
  /** Its path in code; `null` for a name that is not declared. */
  readonly path: string | null
  readonly secret: boolean
  readonly relation: Relation
  readonly cells: readonly Cell[]
}

/** Stages or env files side by side. */
export interface Comparison {
  /** What stands above the columns: names of stages, or of files. */
  readonly columns: readonly string[]
  readonly rows: readonly Row[]
}

/** What is compared, and everything that is wrong with it. */
export interface Compared {
  readonly comparison: Comparison
  readonly problems: readonly Problem[]
}

/** Which rows a person wants to see. */
export type Filter = 'different' | 'problems' | 'missing'

/** The names of all filters. */
export const FILTERS: readonly Filter[] = ['different', 'problems', 'missing']

/** Leaves the rows that a filter asks for. */
export function applyFilter({ columns, rows }: Comparison, filter: Filter | undefined): Comparison {
  const isWanted: Record<Filter, (row: Row) => boolean> = {
    different: ({ relation }) => relation === 'different',
    problems: ({ cells }) => cells.some(hasProblem),
    missing: ({ cells }) => cells.some(({ state }) => state === 'missing'),
  }
  return filter === undefined ? { columns, rows } : { columns, rows: rows.filter(isWanted[filter]) }
}

/** True for a value that is missing, or that breaks a rule. */
export function hasProblem({ state, problems }: Cell): boolean {
  return state === 'missing' || state === 'invalid' || problems.length > 0
}

/** How meanings compare; `null` stands for no value. */
export function getRelation(meanings: readonly (string | null)[]): Relation {
  const [first] = meanings
  if (meanings.every((each) => each === first)) return first === null ? 'unset' : 'same'
  return 'different'
}
