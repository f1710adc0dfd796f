import { fillingProblems } from '../catalogue/filling.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with filling a template in. */
export const fillingProblem = /* @__PURE__ */ problemsOf(fillingProblems)
