import { guardProblems } from '../catalogue/guard.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with what is committed, published or served. */
export const guardProblem = /* @__PURE__ */ problemsOf(guardProblems)
