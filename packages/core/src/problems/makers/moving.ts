import { movingProblems } from '../catalogue/moving.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with moving a finding. */
export const movingProblem = /* @__PURE__ */ problemsOf(movingProblems)
