import type { Severity } from '../../problems/catalogue/entry.ts'
import { type Problem, problem } from '../../problems/problem.ts'

/** So many errors, and so many notices, are listed for one file; of the rest only the number is told. */
const MAX_LISTED = 100

/** The problems of one file. A file that is no env file at all would have one for each of its lines. */
export class ProblemList {
  readonly #file: string | null
  readonly #listed: Problem[] = []
  readonly #counts: Record<Severity, number> = { error: 0, notice: 0 }

  constructor(file: string | null) {
    this.#file = file
  }

  /** True where no more problems of a severity are listed. */
  isFull(severity: Severity): boolean {
    return this.#counts[severity] >= MAX_LISTED
  }

  /** Counts a problem that is not listed, and need not be made. */
  skip(severity: Severity): void {
    this.#counts[severity]++
  }

  add(each: Problem): void {
    if (!this.isFull(each.severity)) this.#listed.push(each)
    this.skip(each.severity)
  }

  /** Those that are listed, and how many are not. */
  all(): readonly Problem[] {
    const { error, notice } = this.#counts
    const place = { file: this.#file }
    const rest: Problem[] = []
    if (error > MAX_LISTED) rest.push(problem('more-errors', { count: error - MAX_LISTED }, place))
    if (notice > MAX_LISTED) rest.push(problem('more-notices', { count: notice - MAX_LISTED }, place))
    return [...this.#listed, ...rest]
  }
}
