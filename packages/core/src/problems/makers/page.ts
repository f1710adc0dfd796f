import { pageProblems } from '../catalogue/pages.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with building a page or serving it. */
export const pageProblem = /* @__PURE__ */ problemsOf(pageProblems)
