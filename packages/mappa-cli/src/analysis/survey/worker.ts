import type { ScannedFile } from './cache.ts'
import { DONE, readOne, STARTED, type WorkerData } from './parallel.ts'

const { workerData } = process.getBuiltinModule('node:worker_threads')

/** So many files are handed over at once. */
const BATCH = 50

const { files, port, state } = workerData as WorkerData
Atomics.store(state, 0, STARTED)
Atomics.notify(state, 0)
try {
  for (let at = 0; at < files.length; at += BATCH) {
    const found = files.slice(at, at + BATCH).flatMap((each): [string, ScannedFile][] => {
      const result = readOne(each)
      return result === null ? [] : [[each.whole, result]]
    })
    port.postMessage(found)
    Atomics.add(state, 0, 1)
    Atomics.notify(state, 0)
  }
} finally {
  Atomics.store(state, 0, DONE)
  Atomics.notify(state, 0)
}
