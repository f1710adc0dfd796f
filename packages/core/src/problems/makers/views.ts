import { viewProblems } from '../catalogue/views.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with showing settings. */
export const viewProblem = /* @__PURE__ */ problemsOf(viewProblems)
