import { storeCommandProblems } from '../catalogue/store-commands.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem of a command that works on a store. */
export const storeCommandProblem = /* @__PURE__ */ problemsOf(storeCommandProblems)
