import { writingProblems } from '../catalogue/writing.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with writing a value. */
export const writingProblem = /* @__PURE__ */ problemsOf(writingProblems)
