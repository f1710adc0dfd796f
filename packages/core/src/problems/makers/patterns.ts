import { patternProblems } from '../catalogue/patterns.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with a pattern of a definition. */
export const patternProblem = /* @__PURE__ */ problemsOf(patternProblems)
