// Runs several programs at once, as many as there are processors, and ends with 1 if one of them fails. For steps.mjs.
import { spawn } from 'node:child_process'
import { availableParallelism } from 'node:os'

const waiting = JSON.parse(process.argv[2])

/** Runs one, and prints what it said in one piece. */
function run({ what, program, words }) {
  return new Promise((resolve) => {
    const child = spawn(program, words, { stdio: ['ignore', 'pipe', 'pipe'] })
    const pieces = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => pieces.push(piece))
    child.on('error', ({ message }) => pieces.push(Buffer.from(`${message}\n`)))
    child.on('close', (code) => {
      console.log(`\n== ${what}`)
      process.stdout.write(Buffer.concat(pieces))
      if (code !== 0) process.exitCode = 1
      resolve()
    })
  })
}

async function work() {
  for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) await run(next)
}

await Promise.all(Array.from({ length: availableParallelism() }, work))
