import { type ChildProcess, spawn } from 'node:child_process'
import { constants } from 'node:os'
import { runningProblem } from '@mappa/core/problems/catalogue/running'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { readStats } from '@mappa/node/fs/regular-file'
import { maskStream } from '@mappa/search/mask/mask-stream'
import type { MaskedText } from '@mappa/search/mask/masker'
import type { Variables } from './environment.ts'
import { makePipe } from './pipe.ts'

/** What shells end with for a command that can't be found, and for one that can't be started. */
export const EXIT_NOT_FOUND = 127
export const EXIT_NOT_STARTED = 126
/** What shells add to the number of the signal that ended a command. */
const EXIT_SIGNAL = 128

/** A command, as it is to be started. */
export interface Start {
  readonly command: string
  readonly words: readonly string[]
  readonly environment: Variables
  /** What must not be seen in its output; `null` to hand its output through untouched, terminal and all. */
  readonly masked: readonly MaskedText[] | null
}

/** A command that was started. */
export interface Running {
  /** The exit code of the command once it has ended and all it printed is written: 128 and the number of the signal if one ended it. */
  readonly ended: Promise<number>
  /** The same as soon as the command itself has ended. Something that it has started may still be there, and print. */
  readonly exited: Promise<number>
  readonly send: (signal: NodeJS.Signals) => void
}

/** A command could not be started at all. */
export class NotStarted extends Error {
  /** What to end with, as shells do. */
  readonly exitCode: number
  readonly report: SettingsError

  constructor(exitCode: number, report: SettingsError) {
    super(report.message)
    this.exitCode = exitCode
    this.report = report
  }
}

/**
 * Starts a command with an environment, in the process group and at the terminal of this process.
 *
 * @throws {NotStarted} if there is no such command, or the system refuses to start it; also as the reason of `ended`
 */
export function startProcess({ command, words, environment, masked }: Start): Running {
  const pipes = masked === null ? [null, null] : [makePipe(), makePipe()]
  const output = pipes.map((each) => each?.write ?? (masked === null ? 'inherit' : 'pipe'))
  let child: ChildProcess
  try {
    child = spawn(command, words, { env: environment as NodeJS.ProcessEnv, stdio: ['inherit', ...output] })
  } catch (error) {
    for (const each of pipes) each?.read.destroy()
    throw reportNotStarted(error as NodeJS.ErrnoException, command)
  } finally {
    for (const each of pipes) each?.handOver()
  }
  const printed =
    masked === null
      ? []
      : [
          maskStream(pipes[0]?.read ?? child.stdout!, process.stdout, masked),
          maskStream(pipes[1]?.read ?? child.stderr!, process.stderr, masked),
        ]
  const failed = new Promise<never>((_, reject) => {
    child.once('error', (error) => reject(reportNotStarted(error, command)))
  })
  const getCode = (code: number | null, signal: NodeJS.Signals | null) =>
    code ?? EXIT_SIGNAL + constants.signals[signal!]
  const exit = new Promise<number>((resolve) => child.once('exit', (...how) => resolve(getCode(...how))))
  const close = new Promise<number>((resolve) => child.once('close', (...how) => resolve(getCode(...how))))
  const exited = Promise.race([failed, exit])
  const ended = Promise.race([failed, close]).finally(() => Promise.all(printed))
  // Nobody has to wait for both.
  for (const each of [exited, ended]) each.catch(() => {})
  return { ended, exited, send: (signal) => void child.kill(signal) }
}

function reportNotStarted(error: NodeJS.ErrnoException, command: string): NotStarted {
  const isMissing = command === '' || (error.code === 'ENOENT' && !(command.includes('/') && fs.existsSync(command)))
  const why = isMissing
    ? runningProblem('command-not-found', { command: command || '""', near: findLocalBinary(command) })
    : runningProblem('command-not-started', { command, reason: explainFailure(error, command) })
  const report = new SettingsError({ title: 'The command', stage: null, problems: [why] })
  return new NotStarted(isMissing ? EXIT_NOT_FOUND : EXIT_NOT_STARTED, report)
}

function explainFailure({ code = 'an unknown error' }: NodeJS.ErrnoException, command: string): string {
  if (readStats(command)?.isDirectory() === true) return 'it is a directory'
  const known: Readonly<Record<string, string>> = {
    EACCES: 'it is not executable (chmod +x makes it so)',
    ENOENT: 'the program that its first line names does not exist',
    ENOEXEC: 'it is neither a program nor a script with #! in its first line',
    ENAMETOOLONG: 'its name is too long',
    E2BIG: 'its arguments and variables are too large together for the operating system',
  }
  return known[code] ?? `the operating system says ${code}`
}

/** The command as packages install it, which shells find only within scripts of `package.json`. */
function findLocalBinary(command: string): string | null {
  const local = path.join('node_modules', '.bin', command)
  return command.includes('/') || !fs.existsSync(local) ? null : `./${local}`
}
