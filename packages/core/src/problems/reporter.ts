import { hasErrors, type Problem } from './problem.ts'

/** Takes the problems that are found on the way, so that all of them are told at once. */
export class Reporter {
  readonly #problems: Problem[]

  /** @param known what was found before */
  constructor(known: readonly Problem[] = []) {
    this.#problems = [...known]
  }

  /** Takes a problem. */
  report(found: Problem): void {
    this.#problems.push(found)
  }

  /** All problems, in the order in which they were found. */
  get problems(): readonly Problem[] {
    return this.#problems
  }

  /** True if at least one keeps a program from starting. */
  get hasErrors(): boolean {
    return hasErrors(this.#problems)
  }
}
