import { spawnSync } from 'node:child_process'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { runExample } from './simulated/run-example.ts'

const COMMAND = join(import.meta.dirname, '../../packages/mappa-cli/dist/main.js')

function title(text: string): void {
  console.log(`\n== ${text}\n`)
}

/** Runs the command where somebody would, and ends the demo where it does not end as it should. */
function mappa(root: string, words: readonly string[], status: number): void {
  console.log(`$ mappa ${words.join(' ')}`)
  const outcome = spawnSync(process.execPath, [COMMAND, ...words], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  })
  if (outcome.status !== status) throw new Error(`mappa ${words[0]} ended with ${outcome.status}, not with ${status}`)
}

async function ask(method: string, url: string): Promise<void> {
  const answer = await fetch(url, { method })
  const text = await answer.text()
  console.log(`${method} ${new URL(url).pathname}  ${answer.status}  ${text}`)
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}`)
}

title('The observatory: a copy of examples/dome-api, with keys that its dome controller hands out')
const running = await runExample()
const { root } = running
try {
  title('Every stage is checked before anything runs')
  mappa(root, ['check', '--all'], 0)

  title('Every value of production, and where it comes from')
  mappa(root, ['show', '--stage', 'production'], 0)

  title('One of them, layer by layer')
  mappa(root, ['show', 'NIGHT_PLACES', '--stage', 'development'], 0)

  for (const stage of ['development', 'staging', 'production']) {
    title(`The server in ${stage}`)
    const server = await running.start(stage)
    if (server.url === null) throw new Error(`The server did not start:\n${server.printed()}`)
    await ask('GET', `${server.url}/health`)
    await ask('GET', `${server.url}/night`)
    await ask('POST', `${server.url}/dome/turn/135`)
    await server.stop()
    process.stdout.write(server.printed())
  }

  title('Production without its key, with a wrong port and a misspelt name')
  const file = join(root, '.env.production')
  writeFileSync(
    file,
    readFileSync(file, 'utf8').replace('SERVER_PORT=4120', 'SERVER_PORT=412000').replace('DOME_MOTORS', 'DOME_MOTRS'),
  )
  rmSync(join(root, '.env.production.local'))
  console.log('$ MAPPA_STAGE=production node dist/server.js')
  const refused = await running.start('production')
  process.stdout.write(refused.printed())
  if (refused.exitCode() !== 78) throw new Error(`The server ended with ${refused.exitCode()}, not with 78`)
  console.log(`The server ended with ${refused.exitCode()} before it listened.`)

  title('The same as a comment for a pull request; mappa view alone shows it on a page')
  mappa(root, ['view', 'staging', 'production', '--format', 'markdown'], 1)
} finally {
  await running.end()
}
console.log('\nThat was all. Nothing is left behind.')
