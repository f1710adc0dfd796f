import { runningProblems } from '../catalogue/running.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with starting a command. */
export const runningProblem = /* @__PURE__ */ problemsOf(runningProblems)
