import type { allProblems } from './catalogue/all.ts'
import type { DetailsOf, Severity } from './catalogue/entry.ts'
import { catalogue } from './catalogue/index.ts'
import { type Location, problemFactory } from './factory.ts'

export { getDetail, type Location, withLocation } from './factory.ts'

/** A stable code for each thing that can be wrong; `docs/problems.md` lists them. */
export type ProblemCode = keyof ReturnType<typeof allProblems>

/** The codes that a program can meet when it loads its settings. */
export type LoadingCode = keyof ReturnType<typeof catalogue>

/** Something wrong: what, where, and what to do about it. Holds no secret value. */
export interface Problem extends Required<Location> {
  readonly code: ProblemCode
  readonly severity: Severity
  /** One sentence that says what is wrong. */
  readonly message: string
  /** One sentence that says what to do. */
  readonly hint: string
}

/** The placeholders of the message and the hint of a code. */
export type ProblemDetails<Code extends ProblemCode> = DetailsOf<ReturnType<typeof allProblems>[Code]>

/** Makes a problem that a program can meet when it loads its settings. */
export const problem = /* @__PURE__ */ problemFactory(catalogue)

/** True where at least one of the problems keeps a program from starting. */
export function hasErrors(problems: readonly Problem[]): boolean {
  return problems.some((each) => each.severity === 'error')
}
