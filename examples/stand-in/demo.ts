import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startCluster } from '@mappa/tests/support/etcd'
import { Hosting } from './hosting.ts'

const REPOSITORY = join(import.meta.dirname, '../..')
const COMMAND = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')
const DRILL_KEY = 'drill-7Kd2Qw9Zt4Rm6Xb'
const SKY_KEY = 'open-sky-5Hn8Vc3Lp1Yg9Tj'

const root = mkdtempSync(join(tmpdir(), 'fernhollow-'))
const ends: (() => unknown)[] = [() => rmSync(root, { recursive: true, force: true })]
const machines: ChildProcess[] = []

function title(text: string): void {
  console.log(`\n== ${text}\n`)
}

/** Runs the command while this process may answer it, and ends the demo where it does not end as it should. */
async function mappa(words: readonly string[], status = 0, environment: Record<string, string> = {}): Promise<void> {
  console.log(`$ mappa ${words.join(' ')}`)
  const child = spawn(process.execPath, [COMMAND, ...words], {
    cwd: root,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'inherit', 'inherit'],
  })
  const code = await new Promise((resolve) => child.on('exit', resolve))
  if (code !== status) throw new Error(`mappa ${words.join(' ')} ended with ${code}, not with ${status}`)
}

/** What machines have said, line by line. */
const said: string[] = []

function startMachine(name: string): void {
  const child = spawn(process.execPath, ['dome-service.mjs', name], { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] })
  child.stdout.setEncoding('utf8').on('data', (text: string) => {
    process.stdout.write(text)
    said.push(...text.split('\n').filter((line) => line !== ''))
  })
  machines.push(child)
}

/** Waits until each machine has said something, and says how long that took. */
async function allSay(what: string, began = Date.now()): Promise<void> {
  const isSaid = (name: string) => said.some((line) => line.includes(`${name}:`) && line.includes(what))
  while (!['dome-1', 'dome-2', 'dome-3'].every(isSaid)) {
    if (Date.now() - began > 10_000) throw new Error(`Not every machine has said ${what}`)
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
  console.log(`  (all three within ${Date.now() - began} ms)`)
}

const set = (words: readonly string[], value: string) =>
  spawnSync(process.execPath, [COMMAND, 'set', ...words], {
    cwd: root,
    input: value,
    stdio: ['pipe', 'inherit', 'inherit'],
  })

try {
  title('The observatory on three machines: settings are sent to a store of three members')
  for (const file of ['settings.definition.json', 'dome-service.mjs'])
    cpSync(join(import.meta.dirname, file), join(root, file))
  writeFileSync(join(root, 'package.json'), '{ "type": "module" }\n')
  mkdirSync(join(root, 'node_modules'))
  symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(root, 'node_modules/mappa-settings'))
  spawnSync('git', ['init', '-q'], { cwd: root })
  const cluster = await startCluster({ after: (end: () => unknown) => ends.push(end) } as never, 3)
  const store = { kind: 'etcd', endpoints: cluster.endpoints, prefix: 'fernhollow/dome-api' }
  writeFileSync(join(root, 'settings.store.json'), `${JSON.stringify(store, null, 2)}\n`)
  writeFileSync(join(root, '.env.production'), 'DOME_URL=https://dome.fernhollow.example\nNIGHT_PLACES=12\n')
  set(['DOME_KEY', '--stage', 'development'], DRILL_KEY)
  set(['DOME_KEY', '--stage', 'production'], SKY_KEY)
  await mappa(['store', 'send', 'DOME_KEY', 'DOME_URL', 'NIGHT_PLACES', '--stage', 'production', '--yes'])

  title('Three dome services start with what is there')
  for (const name of ['dome-1', 'dome-2', 'dome-3']) startMachine(name)
  await allSay('12 places')

  title('A value changes, and all three have it')
  writeFileSync(join(root, '.env.production'), 'DOME_URL=https://dome.fernhollow.example\nNIGHT_PLACES=20\n')
  const changed = Date.now()
  await mappa(['store', 'send', '--stage', 'production', '--yes'])
  await allSay('20 places', changed)

  title('One member of the store is killed, and nothing is lost')
  await cluster.kill(0)
  writeFileSync(join(root, '.env.production'), 'DOME_URL=https://dome.fernhollow.example\nNIGHT_PLACES=24\n')
  const changedAgain = Date.now()
  await mappa(['store', 'send', '--stage', 'production', '--yes'])
  await allSay('24 places', changedAgain)
  await mappa(['store', 'history', '--stage', 'production'])

  title('A hosting service turns out to hold the drill key in production')
  const hosting = await Hosting.start()
  ends.push(() => hosting.stop())
  const at = new Date().toISOString()
  const { variables } = hosting.stages.get('production')!
  variables.set('DOME_KEY', { value: DRILL_KEY, revision: 1, by: null, at })
  variables.set('DOME_URL', { value: 'https://dome.fernhollow.example', revision: 1, by: null, at })
  const service = { kind: 'http', url: hosting.url, token: { env: 'HOSTING_TOKEN' } }
  writeFileSync(join(root, 'hosting.json'), `${JSON.stringify(service, null, 2)}\n`)
  const own = ['--stage', 'production', '--store-file', 'hosting.json']
  await mappa(['store', 'compare', ...own], 1, { HOSTING_TOKEN: hosting.token })
  await mappa(['store', 'send', '--yes', ...own], 0, { HOSTING_TOKEN: hosting.token })
  await mappa(['store', 'compare', ...own], 0, { HOSTING_TOKEN: hosting.token })
} finally {
  for (const each of machines) each.kill()
  for (const end of ends.reverse()) await end()
}
process.exit()
