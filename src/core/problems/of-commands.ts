import { definitionFileProblems } from './catalogue/definition-files.ts'
import { editingProblems } from './catalogue/editing.ts'
import { guardProblems } from './catalogue/guard.ts'
import { movingProblems } from './catalogue/moving.ts'
import { writingProblems } from './catalogue/writing.ts'
import { problemsOf } from './problem.ts'

/** Makes a problem with changing an env file. */
export const editingProblem = /* @__PURE__ */ problemsOf(editingProblems)

/** Makes a problem with the file of a definition. */
export const definitionFileProblem = /* @__PURE__ */ problemsOf(definitionFileProblems)

/** Makes a problem with writing a value. */
export const writingProblem = /* @__PURE__ */ problemsOf(writingProblems)

/** Makes a problem that the guard found. */
export const guardProblem = /* @__PURE__ */ problemsOf(guardProblems)

/** Makes a problem with moving a finding. */
export const movingProblem = /* @__PURE__ */ problemsOf(movingProblems)
