import { editingProblems } from '../catalogue/editing.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem with changing an env file. */
export const editingProblem = /* @__PURE__ */ problemsOf(editingProblems)
