import { pageProblems } from './catalogue/pages.ts'
import { startValueProblems } from './catalogue/start-values.ts'
import { problemsOf } from './problem.ts'

/** Makes a problem with building a page or serving it. */
export const pageProblem = /* @__PURE__ */ problemsOf(pageProblems)

/** Makes a problem that a page finds with its start-time settings. */
export const startValueProblem = /* @__PURE__ */ problemsOf(startValueProblems)
