import { storeProblems } from '../catalogue/stores.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with a store that many machines share. */
export const storeProblem = /* @__PURE__ */ problemsOf(storeProblems)
