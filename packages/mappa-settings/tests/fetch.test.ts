import assert from 'node:assert/strict'
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { inspect } from 'node:util'
import { startCluster, until } from '@mappa/tests/support/etcd'
import { needs } from '@mappa/tests/support/programs'
import { COMMAND, DEFINITION, makeProject, type Project, run } from '@mappa/tests/support/project'
import { defineSettings, setting } from 'mappa-settings'
import { etcdStore } from 'mappa-settings/etcd'
import { fetchSettings, inspectSettings, watchSettings } from 'mappa-settings/node'
import { type Store, StoreError, type StoreState, type StoreWatcher } from 'mappa-settings/store'

const KEY = 'open-sky-8fK2qWm5Zt1Lx7Rd'
const OTHER = 'open-sky-2mV9xQp4Wd7Jc3Ns'
const SEAL = 'seal-6Tg4Rw9Kz2Bn8Xq'

const definition = defineSettings({
  dome: {
    key: setting.string('Key the dome controller asks for', { secret: true, minLength: 12 }),
    url: setting.url('Address of the dome controller', { default: 'http://127.0.0.1:4200' }),
  },
  night: { places: setting.integer('Places at the eyepiece', { minimum: 1, maximum: 40, default: 12 }) },
})

/** A store in memory, which fails while it is told to. */
function memoryStore(values: Record<string, string>) {
  let revision = 41
  let fault: Error | null = null
  let reads = 0
  let watcher: StoreWatcher | null = null
  const entries = new Map<string, { value: string; revision: string }>()
  const put = (more: Record<string, string>) => {
    revision++
    for (const [name, value] of Object.entries(more)) entries.set(name, { value, revision: String(revision) })
  }
  put(values)
  const state = (stage: string): StoreState => ({ stage, revision: String(revision), entries: new Map(entries) })
  const store: Store = {
    id: 'memory',
    describe: () => 'memory fernhollow',
    async read(stage) {
      reads++
      if (fault !== null) throw fault
      return state(stage)
    },
    watch(_from, own) {
      watcher = own
      return () => {
        watcher = null
      }
    },
  }
  return {
    store,
    fails: (error: Error | null) => {
      fault = error
      if (error !== null) watcher?.onError(error)
    },
    changes(more: Record<string, string>) {
      put(more)
      watcher?.onState(state('production'))
    },
    reads: () => reads,
    isWatched: () => watcher !== null,
  }
}

function emptyRoot(context: TestContext): string {
  const root = mkdtempSync(join(tmpdir(), 'mappa-fetch-'))
  context.after(() => rmSync(root, { recursive: true, force: true }))
  writeFileSync(join(root, 'package.json'), '{}')
  return root
}

describe('fetchSettings', () => {
  it(
    'puts the store above the files and below the environment, and says which change set a value',
    needs('etcd-server'),
    async (context) => {
      const cluster = await startCluster(context)
      const store = etcdStore({ endpoints: cluster.endpoints, prefix: 'fernhollow/dome-api' })
      context.after(() => store.close!())
      const root = emptyRoot(context)
      writeFileSync(join(root, '.env.production'), 'DOME_URL=http://file.fernhollow.example\nNIGHT_PLACES=7\n')
      const revision = await store.write!(
        [
          { name: 'DOME_KEY', value: KEY },
          { name: 'DOME_URL', value: 'http://$store.fernhollow.example' },
          { name: 'NIGHT_PLACES', value: '99' },
        ],
        await store.read('production'),
      )
      const environment = { NIGHT_PLACES: '9' }
      const settings = await fetchSettings(definition, { store, root, stage: 'production', environment })
      assert.equal(settings.dome.key.reveal(), KEY)
      assert.equal(settings.dome.url, 'http://$store.fernhollow.example')
      assert.equal(settings.night.places, 9)
      const failed = fetchSettings(definition, { store, root, stage: 'production', environment: {} })
      await assert.rejects(failed, (error: Error) => {
        assert.match(error.message, /NIGHT_PLACES must be at most 40; it is "99"/)
        assert.match(error.message, /etcd fernhollow\/dome-api\/production/)
        return true
      })
      const project = makeProject(context, { 'settings.definition.ts': DEFINITION })
      project.write(
        'settings.store.json',
        JSON.stringify({ kind: 'etcd', endpoints: cluster.endpoints, prefix: 'fernhollow/dome-api' }),
      )
      const shown = project.mappa(['show', 'DOME_KEY', '--stage', 'production', '--store'])
      assert.match(shown.stdout, new RegExp(`etcd fernhollow/dome-api/production/DOME_KEY @${revision}`))
      assert.ok(!shown.stdout.includes(KEY))
    },
  )

  it('tries again while the store can not be reached, and gives up in time with everything that is wrong', async (context) => {
    const memory = memoryStore({ DOME_KEY: KEY })
    const options = {
      store: memory.store,
      root: emptyRoot(context),
      stage: 'production',
      environment: {},
      timeout: 600,
    }
    memory.fails(new StoreError('unreachable', '127.0.0.1:1 refuses the connection'))
    setTimeout(() => memory.fails(null), 150)
    assert.equal((await fetchSettings(definition, options)).dome.key.reveal(), KEY)
    assert.ok(memory.reads() > 1)
    memory.fails(new StoreError('unreachable', '127.0.0.1:1 refuses the connection'))
    await assert.rejects(
      fetchSettings(definition, options),
      /Settings for production: 1 error[\s\S]*can't be reached: 127\.0\.0\.1:1 refuses/,
    )
    memory.fails(new StoreError('denied', 'the token is none that it knows'))
    const before = memory.reads()
    await assert.rejects(fetchSettings(definition, options), /refuses access: the token is none/)
    assert.equal(memory.reads(), before + 1, 'what is refused is not asked for again')
    memory.fails(new Error(`failed with ${KEY}`))
    await assert.rejects(fetchSettings(definition, options), (error: Error) => !inspect(error).includes(KEY))
    const never: Store = { ...memory.store, read: () => new Promise(() => {}) }
    await assert.rejects(
      fetchSettings(definition, { ...options, store: never, timeout: 100 }),
      /no answer within 0\.1 s/,
    )
    const signal = AbortSignal.timeout(50)
    await assert.rejects(fetchSettings(definition, { ...options, store: never, signal }), { name: 'TimeoutError' })
  })

  it('keeps the last good values, encrypted and for its owner alone, and says how old they are', async (context) => {
    const root = emptyRoot(context)
    const file = join(root, 'last-good')
    const memory = memoryStore({ DOME_KEY: KEY })
    const notices: string[] = []
    const options = {
      store: memory.store,
      root,
      stage: 'production',
      environment: {},
      timeout: 100,
      lastGood: { file, key: SEAL },
      onNotices: (problems: readonly { message: string }[]) => notices.push(...problems.map(({ message }) => message)),
    }
    await fetchSettings(definition, options)
    assert.equal(statSync(file).mode & 0o777, 0o600)
    assert.ok(!readFileSync(file, 'latin1').includes(KEY))
    memory.changes({ DOME_KEY: 'short' })
    await assert.rejects(fetchSettings(definition, options), /at least 12/)
    memory.fails(new StoreError('timeout', 'it gave no answer'))
    const settings = await fetchSettings(definition, options)
    assert.equal(settings.dome.key.reveal(), KEY)
    assert.match(notices.join(), /last good values are used, \d+ s old/)
    const others: readonly (readonly [object, RegExp])[] = [
      [{ lastGood: { file, key: `${SEAL}!` } }, /the key is another one, or the file was changed/],
      [{ stage: 'staging' }, /can't be reached/],
      [{ lastGood: { file: join(root, 'none'), key: SEAL } }, /can't be reached/],
    ]
    for (const [other, says] of others) await assert.rejects(fetchSettings(definition, { ...options, ...other }), says)
    const told: string[] = []
    const { onNotices: _, ...watched } = options
    const watching = await watchSettings(definition, () => {}, {
      ...watched,
      onProblems: ({ problems }) => told.push(...problems.map(({ code }) => code)),
    })
    assert.deepEqual([watching.current.dome.key.reveal(), told], [KEY, ['store-last-good']])
    memory.fails(null)
    memory.changes({ DOME_KEY: OTHER })
    assert.equal(watching.current.dome.key.reveal(), OTHER)
    watching.stop()
    memory.fails(new StoreError('denied', 'no'))
    await assert.rejects(fetchSettings(definition, options), /refuses access/)
    memory.fails(null)
    const other = join(root, 'notes.txt')
    writeFileSync(other, 'written by hand\n')
    assert.ok(await fetchSettings(definition, { ...options, lastGood: { file: other, key: SEAL } }))
    assert.equal(readFileSync(other, 'utf8'), 'written by hand\n')
    assert.match(notices.join(), /can't be kept: another file is there/)
    await assert.rejects(fetchSettings(definition, { ...options, lastGood: { file, key: 'short' } }), /at least 16/)
  })

  it('watches: changes arrive whole, wrong ones are refused, and a store that fails is told of', async (context) => {
    const memory = memoryStore({ DOME_KEY: KEY })
    const told: string[] = []
    const changes: string[][] = []
    const settings = await watchSettings(definition, (_now, changed) => changes.push(changed.map(({ name }) => name)), {
      store: memory.store,
      root: emptyRoot(context),
      stage: 'production',
      environment: {},
      onProblems: ({ title = '', problems }) => told.push(`${title}: ${problems.map(({ code }) => code).join()}`),
    })
    memory.changes({ DOME_KEY: OTHER, NIGHT_PLACES: '20' })
    assert.deepEqual(changes, [['DOME_KEY', 'NIGHT_PLACES']])
    assert.deepEqual([settings.current.dome.key.reveal(), settings.current.night.places], [OTHER, 20])
    memory.changes({ DOME_KEY: KEY, NIGHT_PLACES: '99' })
    assert.deepEqual([settings.current.dome.key.reveal(), settings.current.night.places], [OTHER, 20])
    memory.changes({ NIGHT_PLACES: '21' })
    assert.deepEqual([settings.current.dome.key.reveal(), settings.current.night.places], [KEY, 21])
    memory.fails(new StoreError('unreachable', 'gone'))
    memory.fails(new StoreError('unreachable', 'gone'))
    assert.equal(told.length, 2)
    assert.match(told[0]!, /last good values stay: number-too-large|last good values stay/)
    assert.match(told[1]!, /not watched at the moment.*store-unreachable/)
    settings.stop()
    assert.ok(!memory.isWatched())
  })

  it('refuses what is no store, and misspelled options', async () => {
    const none = { store: {} as never }
    await assert.rejects(fetchSettings(definition, none), /store of fetchSettings must be a store/)
    await assert.rejects(fetchSettings(definition, { stroe: 1 } as never), /Did you mean store/)
    await assert.rejects(async () => watchSettings(definition, () => {}, none), /must be a store/)
    assert.ok(inspectSettings(definition, { environment: {}, stage: 'production' }).values === null)
  })
})

/** A program that watches the store, below `mappa run --store` or with `mappa-settings/preload`, gets every change of it. */
async function follows(context: TestContext, project: Project, store: Store, command: readonly string[] | null) {
  const write = async (value: string | null) =>
    store.write!([{ name: 'DOME_KEY', value }], await store.read('development'))
  await write(KEY)
  project.write(
    'watch.mjs',
    `import { appendFileSync, readFileSync } from 'node:fs'
import { definitionFromJson } from 'mappa-settings'
import { watchSettings } from 'mappa-settings/node'
import { openStore } from 'mappa-settings/store'
const definition = definitionFromJson(JSON.parse(readFileSync('settings.definition.json', 'utf8')))
const tell = (settings) => appendFileSync('told.txt', settings.dome.key.reveal() + '\\n')
const told = await watchSettings(definition, tell, { store: await openStore() })
tell(told.current)
`,
  )
  rmSync(join(project.root, 'told.txt'), { force: true })
  const told = () => readFileSync(join(project.root, 'told.txt'), 'utf8').trim().split('\n')
  const { spawn } = await import('node:child_process')
  const words =
    command === null
      ? ['--import', 'mappa-settings/preload', 'watch.mjs']
      : [COMMAND, ...command, process.execPath, 'watch.mjs']
  const env = { ...process.env, ...(command === null ? { MAPPA_STORE: 'settings.store.json' } : {}) }
  const child = spawn(process.execPath, words, { cwd: project.root, stdio: 'ignore', env })
  context.after(() => child.kill('SIGKILL'))
  await until(() => assert.deepEqual(told(), [KEY]))
  await write(OTHER)
  await until(() => assert.deepEqual(told(), [KEY, OTHER]))
  child.kill('SIGTERM')
}

describe('a program with a store', () => {
  it(
    'gets its values by mappa-settings/preload and by mappa run, and is started again when they change',
    needs('etcd-server'),
    async (context) => {
      const cluster = await startCluster(context)
      const store = etcdStore({ endpoints: cluster.endpoints, prefix: 'fernhollow/dome-api' })
      context.after(() => store.close!())
      const write = async (key: string) =>
        store.write!([{ name: 'DOME_KEY', value: key }], await store.read('development'))
      await write(KEY)
      const project = makeProject(context, {
        'settings.definition.json': JSON.stringify({
          settings: { dome: { key: { kind: 'string', description: 'Key', secret: true } } },
        }),
        'settings.store.json': JSON.stringify({
          kind: 'etcd',
          endpoints: cluster.endpoints,
          prefix: 'fernhollow/dome-api',
        }),
        'app.mjs':
          "import { appendFileSync } from 'node:fs'\nappendFileSync('seen.txt', `${process.env.DOME_KEY}\\n`)\nif (process.argv[2] === 'stay') setInterval(() => {}, 1000)\n",
      })
      const seen = () => readFileSync(join(project.root, 'seen.txt'), 'utf8').trim().split('\n')
      const preload = ['--import', 'mappa-settings/preload', 'app.mjs']
      const missing = run(process.execPath, preload, project.root, {})
      assert.deepEqual([missing.status, missing.stderr.includes('DOME_KEY')], [78, true])
      const { status, stderr } = run(process.execPath, preload, project.root, {
        MAPPA_STORE: 'settings.store.json',
        MAPPA_STAGE: 'development',
      })
      assert.deepEqual([status, stderr, seen()], [0, '', [KEY]])
      const { spawn } = await import('node:child_process')
      const words = [COMMAND, 'run', '--store', '--watch', '--', process.execPath, 'app.mjs', 'stay']
      const child = spawn(process.execPath, words, { cwd: project.root, stdio: 'ignore' })
      context.after(() => child.kill('SIGKILL'))
      await until(() => assert.deepEqual(seen(), [KEY, KEY]))
      await write(OTHER)
      await until(() => assert.deepEqual(seen(), [KEY, KEY, OTHER]))
      child.kill('SIGTERM')
      await follows(context, project, store, ['run', '--store', '--'])
      await follows(context, project, store, null)
      await cluster.kill(0)
      const gone = run(process.execPath, [COMMAND, 'run', '--store', '--', 'true'], project.root)
      assert.equal(gone.status, 78)
      assert.match(gone.stderr, /store-unreachable[\s\S]*refuses the connection/)
    },
  )
})
