import { fs } from '@mappa/node/fs/builtin'
import { getLanguage } from '@mappa/source'
import type { ScannedFile } from './cache.ts'
import { scanText } from './scan-file.ts'

const { MessageChannel, receiveMessageOnPort, Worker } = process.getBuiltinModule('node:worker_threads')
const { availableParallelism } = process.getBuiltinModule('node:os')
const { fileURLToPath } = process.getBuiltinModule('node:url')

/** A file to read, by its absolute path and by the one to name in places. */
export interface FileToRead {
  readonly whole: string
  readonly file: string
}

/** What another thread gets to know. */
export interface WorkerData {
  readonly files: readonly FileToRead[]
  readonly port: import('node:worker_threads').MessagePort
  /** `STARTED`, then more with each batch, and `DONE`. */
  readonly state: Int32Array
}

export const STARTED = 1
export const DONE = -1

/** Fewer files than these are read faster by one thread alone. */
const FEWEST = 200
/** More threads than these take more memory than they are worth. */
const MOST_THREADS = 4
/** How long another thread may take to begin, in milliseconds. */
const START_LIMIT = 5000
/** How long another thread may work without handing anything over, in milliseconds: one that ran out of memory never does. */
const STALL_LIMIT = 60_000
/** The program of the other threads, in the built command; there is none beside the sources. */
const PROGRAM = fileURLToPath(new URL('../survey-worker.js', import.meta.url))

/**
 * Reads files in several threads, and waits for all of them. What a thread does not get done is left out, and read later.
 *
 * @returns what was found, by absolute paths
 */
export function readInThreads(files: readonly FileToRead[]): Map<string, ScannedFile> {
  const threads = Math.min(availableParallelism(), MOST_THREADS)
  if (files.length < FEWEST || threads < 2 || !fs.existsSync(PROGRAM)) return new Map()
  const shares = Array.from({ length: threads }, (_, share) => files.filter((_each, at) => at % threads === share))
  const [own, ...others] = shares
  const helpers = others.map((share) => new Helper(share))
  const found = new Map<string, ScannedFile>()
  for (const each of own!) {
    const result = readOne(each)
    if (result !== null) found.set(each.whole, result)
  }
  for (const each of helpers) each.collect(found)
  return found
}

/** What stands in one file; `null` where it can't be read, or is no text. */
export function readOne({ whole, file }: FileToRead): ScannedFile | null {
  try {
    const text = fs.readFileSync(whole, 'utf8')
    return text.includes('\0') ? null : scanText(text, file, getLanguage(file)!)
  } catch {
    return null
  }
}

/** Another thread. */
class Helper {
  readonly #state = new Int32Array(new SharedArrayBuffer(4))
  readonly #port: import('node:worker_threads').MessagePort
  readonly #worker: import('node:worker_threads').Worker

  constructor(files: readonly FileToRead[]) {
    const { port1, port2 } = new MessageChannel()
    this.#port = port1
    const workerData: WorkerData = { files, port: port2, state: this.#state }
    this.#worker = new Worker(PROGRAM, { workerData, transferList: [port2], stdout: true, stderr: true })
    // What it did not do is done without it.
    this.#worker.on('error', () => {})
    this.#worker.unref()
  }

  /** Waits for it, and takes what it has found. */
  collect(found: Map<string, ScannedFile>): void {
    for (let seen = 0; seen !== DONE; seen = Atomics.load(this.#state, 0))
      if (Atomics.wait(this.#state, 0, seen, seen === 0 ? START_LIMIT : STALL_LIMIT) === 'timed-out') break
    for (
      let message = receiveMessageOnPort(this.#port);
      message !== undefined;
      message = receiveMessageOnPort(this.#port)
    )
      for (const [whole, each] of message.message as [string, ScannedFile][]) found.set(whole, each)
    this.#port.close()
    void this.#worker.terminate()
  }
}
