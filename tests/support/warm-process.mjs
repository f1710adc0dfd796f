// A process that runs the command again and again, in the directory it is told, without the cost of a start. Plain JavaScript:
// a loader of TypeScript would also load the definitions that the command has to load by itself.
import { openSync, readSync, writeSync } from 'node:fs'
import { createRequire, register } from 'node:module'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { StringDecoder } from 'node:string_decoder'
import { pathToFileURL } from 'node:url'

const [, , command, requestsPath, answersPath] = process.argv
const requests = openSync(requestsPath, 'r')
const answers = openSync(answersPath, 'w')
const { PATH } = process.env
const own = createRequire(import.meta.url).cache
/** The number of the call, which the hooks for modules read from their thread. */
const counted = new Int32Array(new SharedArrayBuffer(4))
register('./fresh-modules.mjs', import.meta.url, {
  data: { counted, command: pathToFileURL(join(command, '..')).href },
})
const kept = new Set(Object.keys(own))

/** What the command printed in this call, or `null` between calls. */
let printed = null

for (const name of ['stdout', 'stderr']) {
  process[name].write = (piece) => {
    printed[name] += piece
    return true
  }
}

/** Reads to the end of a line; ends the process where the test is gone. */
function readRequest() {
  const decoder = new StringDecoder('utf8')
  const piece = Buffer.alloc(1 << 16)
  let text = ''
  while (!text.endsWith('\n')) {
    const length = readSync(requests, piece)
    if (length === 0) process.exit()
    text += decoder.write(piece.subarray(0, length))
  }
  return JSON.parse(text)
}

function answer(value) {
  const bytes = Buffer.from(`${JSON.stringify(value)}\n`)
  for (let at = 0; at < bytes.length; ) at += writeSync(answers, bytes, at)
}

async function call() {
  const { words, cwd, environment, input } = readRequest()
  process.chdir(cwd)
  for (const name of Object.keys(process.env)) delete process.env[name]
  Object.assign(process.env, { PATH, ...environment })
  Object.defineProperty(process, 'stdin', { value: Readable.from([Buffer.from(input)]), configurable: true })
  for (const file of Object.keys(own)) if (!kept.has(file) && !file.includes('/node_modules/')) delete own[file]
  process.argv = [process.execPath, command, ...words]
  process.exitCode = undefined
  printed = { stdout: '', stderr: '' }
  Atomics.add(counted, 0, 1)
  await import(`${pathToFileURL(command)}?call=${counted[0]}`)
  printed.status = process.exitCode ?? 0
}

// A call has ended when a process of its own would end: there is nothing left to wait for.
process.on('beforeExit', () => {
  if (printed !== null && printed.status === undefined) return
  if (printed !== null) answer(printed)
  call()
})
