import { definitionFileProblems } from '../catalogue/definition-files.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with the file of a definition. */
export const definitionFileProblem = /* @__PURE__ */ problemsOf(definitionFileProblems)
