import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { cpSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startController } from '../dome-api/simulated/controller.ts'

const EXAMPLE = import.meta.dirname
const REPOSITORY = join(EXAMPLE, '../..')
const COMMAND = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')
const { PATH } = process.env

/** Runs a program in the copy, and ends the demo where it does not end as it should. */
function run(shown: string, program: string, words: readonly string[], status: number, input?: string): void {
  console.log(`$ ${shown}`)
  const outcome = spawnSync(program, words, {
    cwd: root,
    env: { PATH, HOME: root },
    stdio: [input === undefined ? 'ignore' : 'pipe', 'inherit', 'inherit'],
    input,
  })
  if (outcome.status !== status) throw new Error(`${shown} ended with ${outcome.status}, not with ${status}`)
}

function mappa(words: readonly string[], status: number, input?: string): void {
  run(`mappa ${words.join(' ')}`, process.execPath, [COMMAND, ...words], status, input)
}

function git(...words: string[]): void {
  const who = ['-c', 'user.name=Fern', '-c', 'user.email=fern@fernhollow.example', '-c', 'init.defaultBranch=main']
  const { status, stderr } = spawnSync('git', [...who, ...words], { cwd: root, encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
}

/** Starts the server against a simulated controller, asks it to turn the dome, and ends it. */
async function turnTheDome(key: string): Promise<void> {
  const controller = await startController([key])
  const port = await freePort()
  const environment = { PATH, CONTROLLER_URL: controller.url, SERVER_PORT: String(port) }
  console.log('$ node src/server.ts &   # with CONTROLLER_URL and SERVER_PORT for the simulated controller')
  const server = spawn(process.execPath, ['--import', 'tsx', 'src/server.ts'], {
    cwd: root,
    env: environment,
    stdio: 'inherit',
  })
  const answer = await whenItAnswers(server, `http://127.0.0.1:${port}/dome/turn/135`)
  console.log(`POST /dome/turn/135  ${answer.status}  ${await answer.text()}`)
  server.kill()
  await controller.stop()
  if (!answer.ok) throw new Error(`The server answered ${answer.status}`)
}

async function whenItAnswers(server: ChildProcess, url: string): Promise<Response> {
  while (server.exitCode === null) {
    const answer = await fetch(url, { method: 'POST' }).catch(() => null)
    if (answer !== null) return answer
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error(`The server ended with ${server.exitCode}`)
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}

function title(text: string): void {
  console.log(`\n== ${text}\n`)
}

const root = mkdtempSync(join(tmpdir(), 'dome-early-'))
try {
  title('The observatory in its first autumn: a copy of examples/dome-early, with its settings in the code')
  cpSync(EXAMPLE, root, {
    recursive: true,
    filter: (path) => !/node_modules|demo\.ts/.test(path.slice(EXAMPLE.length)),
  })
  symlinkSync(join(REPOSITORY, 'node_modules'), join(root, 'node_modules'))
  writeFileSync(join(root, '.gitignore'), 'node_modules\n')
  git('init')
  git('add', '-A')
  git('commit', '-m', 'First autumn')
  mappa(['survey'], 1)

  title('All of it moves, and the whole change is shown')
  mappa(['move', '--all', '--yes'], 0)

  title('The program and its own tests do what they did')
  mappa(['check'], 0)
  run('npm test', 'npm', ['test', '--silent'], 0)
  const first = /drill-\w+/.exec(
    spawnSync('git', ['show', 'HEAD:src/rain.ts'], { cwd: root, encoding: 'utf8' }).stdout,
  )![0]
  await turnTheDome(first)

  title('Git has the key in its files until the change is committed')
  mappa(['guard'], 1)
  git('add', '-A')
  git('commit', '-m', 'Settings go into files')
  mappa(['guard'], 0)

  title('But the key was committed once, and whoever has the repository has the key')
  mappa(['guard', '--history'], 1)

  title('The office hands out another key, and the old one opens nothing any more')
  const second = `drill-${randomBytes(18).toString('hex')}`
  mappa(['set', 'DOME_KEY', '--stage', 'development'], 0, second)
  await turnTheDome(second)
  mappa(['guard', '--history'], 0)
  mappa(['survey'], 0)
} finally {
  rmSync(root, { recursive: true, force: true })
}
console.log('\nThat was all. Nothing is left behind.')
