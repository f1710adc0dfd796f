import { commandProblems } from '../catalogue/commands.ts'
import { problemsOf } from '../problem.ts'

/** Makes a problem that only a command can meet. */
export const commandProblem = /* @__PURE__ */ problemsOf(commandProblems)
