import { editorProblems } from '../catalogue/editors.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem that an editor is told of. */
export const editorProblem = /* @__PURE__ */ problemsOf(editorProblems)
