import { constants } from 'node:os'
import type { Problem } from '@mappa/core/problems/problem'
import { isSettingsError, type SettingsError } from '@mappa/core/problems/settings-error'
import { watchFiles } from '@mappa/node/fs/watch-files'
import type { Variables } from './environment.ts'
import { passSignals } from './signals.ts'
import { type Running, type Start, startProcess } from './start-process.ts'

/** What a command is started with, and what has to change for another start. */
export interface Version {
  readonly start: Start
  /** The text of the definition and of what it imports. */
  readonly definition: string
  /** Absolute paths of files and of directories whose change may change this. */
  readonly files: readonly string[]
  readonly directories: readonly string[]
}

/** What happens while a command is kept up to date, for a person to read. */
export interface Events {
  /** New values are wrong; the command goes on with the last good ones. */
  readonly wrong: (error: SettingsError) => void
  /** Another start; `names` are the variables that have another value, none if only the definition changed. */
  readonly restarts: (names: readonly string[]) => void
  /** The command ended by itself. */
  readonly ended: (exitCode: number) => void
  /** The command did not end when it was asked to. */
  readonly killed: () => void
  /** The store can't be watched at the moment. */
  readonly notWatched: (problem: Problem) => void
}

const ENDING: ReadonlySet<NodeJS.Signals> = new Set(['SIGINT', 'SIGTERM', 'SIGHUP', 'SIGQUIT'])

/** Once a command has ended, so long is waited for what it printed, in milliseconds. */
const OUTPUT_MS = 500

/**
 * Runs a command, and starts it again whenever the values it is started with change, or the definition. It is asked to end by SIGTERM, and
 * ended by SIGKILL after a while.
 *
 * @param first what to start
 * @param next reads everything again; what it throws is told, and the command goes on
 * @param graceMs how long a command may take to end, in milliseconds
 * @param alsoWatch watches what is no file, and gives what ends that
 * @throws {NotStarted} if the command can't be started, also later; and whatever `next` throws beside that settings are wrong
 * @returns what to end with, once a signal asked this process to end and the command has ended
 */
export async function runAndRestart(
  first: Version,
  next: () => Promise<Version>,
  graceMs: number,
  events: Events,
  alsoWatch: (changed: () => void) => () => void = () => () => {},
): Promise<number> {
  let version = first
  let running: Running | null = null
  let restarting = false
  let end: (exitCode: number) => void = () => {}
  let fail: (reason: unknown) => void = () => {}
  const done = new Promise<number>((resolve, reject) => {
    end = resolve
    fail = reject
  })
  let asked: NodeJS.Signals | null = null
  // A hangup asks many programs to read their files again; one that is still there goes on.
  const isLeaving = () => asked !== null && asked !== 'SIGHUP'

  const start = (): void => {
    const own = startProcess(version.start)
    running = own
    // What it has started may keep its output open for as long as it likes.
    const ended = own.exited.then((exitCode) => Promise.race([own.ended, pause(OUTPUT_MS)]).then(() => exitCode))
    ended.then((exitCode) => {
      // Another start may be there by now.
      if (running !== own) return
      running = null
      if (asked !== null) end(exitCode)
      else if (!restarting) events.ended(exitCode)
    }, fail)
  }
  const signals = passSignals(
    (signal) => running?.send(signal),
    (signal) => {
      if (!ENDING.has(signal)) return
      asked = signal
      if (running === null) end(128 + constants.signals[signal])
    },
  )

  let look = Promise.resolve()
  const applyChange = (): void => {
    look = look.then(async () => {
      const fresh = await next().catch((error: unknown) => {
        if (!isSettingsError(error)) throw error
        events.wrong(error)
        return null
      })
      if (fresh === null || isLeaving()) return
      const names = listChangedNames(version.start.environment, fresh.start.environment)
      const isOther = names.length > 0 || fresh.definition !== version.definition
      version = fresh
      rewatch()
      if (!isOther) return
      events.restarts(names)
      asked = null
      restarting = true
      if (running !== null && !(await stopped(running, graceMs))) events.killed()
      restarting = false
      if (asked === null) start()
    })
    look.catch(fail)
  }
  let stop = () => {}
  const rewatch = (): void => {
    stop()
    stop = watchFiles(version.files, version.directories, applyChange)
  }
  rewatch()
  const stopAlso = alsoWatch(applyChange)
  try {
    start()
    return await done
  } finally {
    stop()
    stopAlso()
    signals()
  }
}

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms).unref())

/** Ends a command; `false` if it had to be killed. */
async function stopped({ exited, send }: Running, graceMs: number): Promise<boolean> {
  let politely = true
  send('SIGTERM')
  const limit = setTimeout(() => {
    politely = false
    send('SIGKILL')
  }, graceMs)
  await exited.catch(() => {})
  clearTimeout(limit)
  return politely
}

function listChangedNames(before: Variables, after: Variables): string[] {
  const names = new Set([...Object.keys(before), ...Object.keys(after)])
  return [...names].filter((name) => before[name] !== after[name]).sort()
}
