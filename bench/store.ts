import { mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { base64, startCluster } from '@mappa/tests/support/etcd'
import { etcdStore } from 'mappa-settings/etcd'
import type { Store, StoreState } from 'mappa-settings/store'
import { type Measured, median, printTable, runNode } from './measure.ts'

const PREFIX = 'fernhollow/dome-api'
const ends: (() => unknown)[] = []
const { endpoints } = await startCluster({ after: (end: () => unknown) => ends.push(end) } as never)
const endpoint = new URL(endpoints[0]!)

function open(): Store {
  const store = etcdStore({ endpoints, prefix: PREFIX })
  ends.push(() => store.close?.())
  return store
}

/** Fills a stage with so many variables. */
async function fill(stage: string, count: number): Promise<void> {
  const store = open()
  const changes = Array.from({ length: count }, (_, at) => ({
    name: `NAME_${at}`,
    value: `value of the variable ${at}`,
  }))
  for (let at = 0; at < count; at += 2000) await store.write!(changes.slice(at, at + 2000), await store.read(stage))
}

/** A plain range request, as small as it can be: the answer is read, and taken apart as JSON. */
function range(stage: string): Promise<unknown> {
  const body = JSON.stringify({ key: base64(`${PREFIX}/${stage}/`), range_end: base64(`${PREFIX}/${stage}0`) })
  const { hostname, port } = endpoint
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path: '/v3/kv/range', method: 'POST' }, (answer) => {
      const chunks: Buffer[] = []
      answer.on('data', (chunk: Buffer) => chunks.push(chunk))
      answer.on('end', () => resolve(JSON.parse(Buffer.concat(chunks).toString('utf8'))))
    })
    sent.on('error', reject)
    sent.end(body)
  })
}

async function timed(act: () => Promise<unknown>): Promise<number> {
  const start = performance.now()
  await act()
  return performance.now() - start
}

async function reading(count: number, runs: number, limit: number | null): Promise<Measured> {
  const stage = `s${count}`
  await fill(stage, count)
  const store = open()
  const subject: number[] = []
  const base: number[] = []
  for (let run = -5; run < runs; run++) {
    const both = [await timed(() => store.read(stage)), await timed(() => range(stage))] as const
    if (run < 0) continue
    subject.push(both[0])
    base.push(both[1])
  }
  const paired = median(subject.map((each, at) => each / base[at]!))
  return {
    what: `reading ${count} settings / a plain range request`,
    subject: median(subject),
    base: median(base),
    paired,
    runs,
    limit,
  }
}

/** How long a program takes to start with a store, beside one that starts from files; both with 30 settings. */
async function starting(runs: number): Promise<{ withStore: number; fromFiles: number }> {
  const root = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  ends.push(() => rmSync(root, { recursive: true }))
  symlinkSync(join(import.meta.dirname, '../node_modules'), join(root, 'node_modules'))
  const members = Array.from(
    { length: 30 },
    (_, at) => `name${at}: setting.string('Number ${at}', { name: 'NAME_${at}' })`,
  )
  const head = `import { defineSettings, setting } from 'mappa-settings'\nimport { fetchSettings, loadSettings } from 'mappa-settings/node'\nconst definition = defineSettings({ all: { ${members.join(', ')} } }, { stages: ['s30'] })\n`
  writeFileSync(join(root, 'package.json'), '{ "type": "module" }')
  writeFileSync(join(root, '.env'), members.map((_, at) => `NAME_${at}='value of the variable ${at}'\n`).join(''))
  writeFileSync(join(root, 'files.js'), `${head}loadSettings(definition)\n`)
  const store = `{ endpoints: ${JSON.stringify(endpoints)}, prefix: '${PREFIX}' }`
  writeFileSync(
    join(root, 'store.js'),
    `import { etcdStore } from 'mappa-settings/etcd'\n${head}const store = etcdStore(${store})\nawait fetchSettings(definition, { store })\nstore.close()\n`,
  )
  await fill('s30', 30)
  const times: Record<'files' | 'store', number[]> = { files: [], store: [] }
  for (let run = -2; run < runs; run++)
    for (const each of ['files', 'store'] as const) {
      const start = performance.now()
      runNode([`${each}.js`], { cwd: root })
      if (run >= 0) times[each].push(performance.now() - start)
    }
  return { withStore: median(times.store), fromFiles: median(times.files) }
}

/** The delay with which watchers are told of a change, in milliseconds. */
async function watching(watchers: number, changes: number, pause: number) {
  const stage = `w${watchers}`
  const writer = open()
  let state = await writer.read(stage)
  const delays: number[] = []
  const last = new Array<number>(watchers).fill(0)
  const stops = last.map((_, at) => {
    const store = open()
    const onState = ({ entries }: StoreState) => {
      const [number, sent] = entries.get('MOMENT')!.value!.split(' ').map(Number)
      last[at] = number!
      delays.push(performance.now() - sent!)
    }
    return store.watch!(state, { onState, onError: () => {} })
  })
  // Until all are connected.
  await new Promise((resolve) => setTimeout(resolve, 500 + watchers * 3))
  for (let at = 1; at <= changes; at++) {
    const began = performance.now()
    await writer.write!([{ name: 'MOMENT', value: `${at} ${performance.now()}` }], state)
    state = await writer.read(stage)
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, pause - (performance.now() - began))))
  }
  const limit = performance.now() + 30_000
  while (last.some((each) => each < changes) && performance.now() < limit)
    await new Promise((resolve) => setTimeout(resolve, 20))
  for (const stop of stops) stop()
  const sorted = delays.sort((a, b) => a - b)
  const at = (share: number) =>
    Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]! * 10) / 10
  const arrived = last.filter((each) => each === changes).length
  return {
    watchers,
    changes,
    told: delays.length,
    arrived,
    'median (ms)': at(0.5),
    'p99 (ms)': at(0.99),
    'slowest (ms)': at(1),
  }
}

const [most = 1000, changes = 200, pause = 250] = process.argv.slice(2).map(Number)
try {
  const counts = [10, 100, 1000, 10_000]
  const rows = [await reading(300, 60, 1.5)]
  for (const count of counts) rows.push(await reading(count, count > 1000 ? 10 : 40, null))
  const isFine = printTable('Reading a store', rows)
  const { withStore, fromFiles } = await starting(25)
  const more = withStore - fromFiles
  console.log(
    `\nA program starts in ${withStore.toFixed(0)} ms with a store, and in ${fromFiles.toFixed(0)} ms from files: ${more.toFixed(0)} ms more (limit: 60).`,
  )
  const tables = []
  for (const count of [1, 10, 100, most])
    tables.push(await watching(count, count === most ? changes : 50, count === most ? pause : 20))
  console.log('\nWatching a store')
  console.table(tables)
  const isAll = tables.every(({ watchers, arrived }) => arrived === watchers)
  process.exitCode = isFine && more <= 60 && isAll ? 0 : 1
} finally {
  for (const end of ends.reverse()) await end()
}
process.exit()
