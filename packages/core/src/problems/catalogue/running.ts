import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What keeps a command from being started with the values of a stage. */
export const runningProblems = () => ({
  'command-unclear': error(
    'The command is not separated from the options of mappa run.',
    'Write -- before it: mappa run --stage production -- node server.js',
  ),
  'command-not-found': error(
    'The command {command} was not found.',
    'Check its name, and that PATH has its directory.',
    'Write {near}, which is installed in this project, or run it by a script of package.json.',
  ),
  'command-not-started': error(
    "The command {command} can't be started: {reason}.",
    'Try it without mappa run; the operating system gives the same answer there.',
  ),
  'value-has-nul': error(
    'The value of {name} has a NUL character, which no process environment can hold.',
    'Remove it, or store the value as base64.',
  ),
  'secret-not-masked': notice(
    "{name} is a secret that can't be told apart from other output, so it is not masked there: it is too short, or a common text.",
    'Use a longer, random value.',
  ),
  'grace-period-wrong': error(
    '--grace-period takes a number of seconds, from 0 to 3600.',
    'Write, for example, --grace-period 10.',
  ),
})

/** Makes a problem with starting a command. */
export const runningProblem = /* @__PURE__ */ problemFactory(runningProblems)
