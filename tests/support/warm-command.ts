import { spawn, spawnSync } from 'node:child_process'
import { closeSync, constants, mkdtempSync, openSync, readSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { StringDecoder } from 'node:string_decoder'

/** What a call of the command came to. */
export interface Outcome {
  readonly status: number | null
  readonly stdout: string
  readonly stderr: string
}

/** A process that has the command loaded, and the two pipes to it. */
interface WarmProcess {
  readonly requests: number
  readonly answers: number
}

/** One for each file of tests, started by its first call. It ends with them, since its pipe closes. */
const warm = new Map<string, WarmProcess>()

/**
 * Runs the command in a process that has it loaded already, and waits for it. Nothing is a terminal.
 *
 * @param command the absolute path of the command
 * @param environment what its environment has beside `PATH`
 * @param input what it reads from standard input
 * @returns `null` where the call ended the process: it has to be made again in a process of its own
 */
export function callWarm(
  command: string,
  words: readonly string[],
  cwd: string,
  environment: Readonly<Record<string, string>>,
  input: string,
): Outcome | null {
  const process = warm.get(command) ?? start(command)
  warm.set(command, process)
  writeSync(process.requests, `${JSON.stringify({ words, cwd, environment, input })}\n`)
  const answer = readLine(process.answers)
  if (answer !== null) return JSON.parse(answer) as Outcome
  warm.delete(command)
  closeSync(process.requests)
  closeSync(process.answers)
  return null
}

function start(command: string): WarmProcess {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-warm-'))
  const [toChild, fromChild] = [join(directory, 'requests'), join(directory, 'answers')]
  spawnSync('mkfifo', [toChild, fromChild])
  // Opened for both directions, since opening for one waits for the other side.
  const requests = openSync(toChild, constants.O_RDWR)
  const script = join(import.meta.dirname, 'warm-process.mjs')
  const child = spawn(process.execPath, [script, command, toChild, fromChild], {
    env: { PATH: process.env.PATH },
    stdio: 'ignore',
  })
  child.unref()
  const answers = openSync(fromChild, 'r')
  rmSync(directory, { recursive: true })
  return { requests, answers }
}

/** Waits for a whole line; `null` if the other side is gone. */
function readLine(pipe: number): string | null {
  const decoder = new StringDecoder('utf8')
  const piece = Buffer.alloc(1 << 16)
  let text = ''
  while (!text.endsWith('\n')) {
    const length = readSync(pipe, piece)
    if (length === 0) return null
    text += decoder.write(piece.subarray(0, length))
  }
  return text
}
