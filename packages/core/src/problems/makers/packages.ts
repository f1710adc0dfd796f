import { packagesProblems } from '../catalogue/packages.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with choosing packages. */
export const packagesProblem = /* @__PURE__ */ problemsOf(packagesProblems)
