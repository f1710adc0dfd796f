import { publicValueProblems } from '../catalogue/public-values.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with handing public values to a page. */
export const publicValueProblem = /* @__PURE__ */ problemsOf(publicValueProblems)
