import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { defineSettings, resolveSettings, type Setting, setting } from 'mappa-settings'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'
import { median } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '..')
const COMMAND = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')

/** How the cost of something grows. */
export interface Growth {
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: readonly (readonly (string | number)[])[]
}

const round = (value: number, digits = 0) => Number(value.toFixed(digits))

/** Declaring, reading and resolving more and more settings, in one process. */
export function growthOfSettings(): Growth {
  const rows = [10, 100, 1000, 10_000, 100_000].map((count) => {
    const times = Array.from({ length: count > 10_000 ? 3 : 7 }, () => {
      const tree: Record<string, Setting<string, false, false, false>> = {}
      for (let at = 0; at < count; at++) tree[`mirror${at}`] = setting.string('Name of a mirror')
      const text = Array.from({ length: count }, (_, at) => `MIRROR${at}="Fernhollow ${at}"`).join('\n')
      const began = performance.now()
      const definition = defineSettings(tree)
      const { values } = resolveSettings(definition, { layers: [documentLayer('.env', EnvDocument.from(text))] })
      if (values === null) throw new Error('Some setting has no value.')
      return performance.now() - began
    })
    const took = median(times)
    return [count, round(took, 1), round((took * 1000) / count, 1)]
  })
  return { title: 'Settings', columns: ['settings', 'declared, read and resolved (ms)', 'for each (µs)'], rows }
}

/**
 * The most memory that a process held, in kilobytes, which it says when it ends. The usage of resources would count what the process
 * held that started it.
 */
const MOST_MEMORY = 'Number(/VmHWM:\\s*(\\d+)/.exec(readFileSync("/proc/self/status","utf8"))[1])'
const TELL_MEMORY = `data:text/javascript,${encodeURIComponent(`import{readFileSync}from"node:fs";process.on("exit",()=>process.stderr.write("\\nmemory "+${MOST_MEMORY}))`)}`

/** Runs the command and gives its time in milliseconds, and its memory in megabytes. */
function command(words: readonly string[], cwd: string): { readonly took: number; readonly megabytes: number } {
  const began = performance.now()
  const { stderr, status } = spawnSync(process.execPath, ['--import', TELL_MEMORY, COMMAND, ...words], {
    cwd,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  })
  const took = performance.now() - began
  const [, kilobytes] = /memory (\d+)/.exec(stderr) ?? []
  if (status === null || status > 1 || kilobytes === undefined) throw new Error(stderr)
  return { took, megabytes: Number(kilobytes) / 1024 }
}

/** Calls the command some times, after one that fills caches. */
function measured(words: readonly string[], cwd: string, runs: number): readonly [took: number, megabytes: number] {
  command(words, cwd)
  const all = Array.from({ length: runs }, () => command(words, cwd))
  return [round(median(all.map(({ took }) => took))), round(Math.max(...all.map(({ megabytes }) => megabytes)))]
}

function inDirectory<T>(work: (directory: string) => T): T {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-growth-'))
  try {
    return work(directory)
  } finally {
    rmSync(directory, { recursive: true, force: true })
  }
}

/** `mappa check --all` over more and more packages, with three stages each. */
export function growthOfPackages(): Growth {
  let one = 0
  const rows = [1, 10, 100, 500].map((count) =>
    inDirectory((directory) => {
      writeFileSync(join(directory, 'package.json'), '{ "workspaces": ["services/*"] }')
      for (let at = 0; at < count; at++) writePackage(join(directory, `services/dome-${at}`))
      const [took, megabytes] = measured(['check', '--all'], directory, count > 100 ? 3 : 7)
      if (count === 1) one = took
      return [count, took, round(took / one, 1), megabytes]
    }),
  )
  return { title: 'Packages', columns: ['packages', '`mappa check --all` (ms)', 'times one', 'memory (MB)'], rows }
}

function writePackage(directory: string): void {
  mkdirSync(directory, { recursive: true })
  const settings = Object.fromEntries(
    Array.from({ length: 12 }, (_, at) => [`mirror${at}`, { kind: 'string', description: 'Name of a mirror' }]),
  )
  writeFileSync(join(directory, 'settings.definition.json'), JSON.stringify({ settings }))
  writeFileSync(join(directory, 'package.json'), '{}')
  const text = Array.from({ length: 12 }, (_, at) => `MIRROR${at}="Fernhollow ${at}"`).join('\n')
  writeFileSync(join(directory, '.env'), text)
}

/** `mappa survey` of more and more source files: for the first time, and when nothing has changed. */
export function growthOfFiles(): Growth {
  const rows = [100, 1000, 10_000, 100_000].map((count) =>
    inDirectory((directory) => {
      writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
      for (let at = 0; at < count; at++) {
        const part = join(directory, `src/part-${at % 100}`)
        if (at < 100) mkdirSync(part, { recursive: true })
        writeFileSync(join(part, `dome-${at}.js`), sourceOf(at))
      }
      mkdirSync(join(directory, 'node_modules'))
      // What is younger is not remembered, since it may change again without its times telling.
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 2100)
      const first = command(['survey', '--json'], directory)
      const again = command(['survey', '--json'], directory)
      return [count, round(first.took), round(again.took), round(Math.max(first.megabytes, again.megabytes))]
    }),
  )
  const columns = ['source files', '`mappa survey`, first (ms)', 'again (ms)', 'memory (MB)']
  return { title: 'Source files', columns, rows }
}

function sourceOf(at: number): string {
  const lines = Array.from(
    { length: 20 },
    (_, line) => `export const mirror${line} = turn(${at + line}, 'east', [${line}])`,
  )
  const address = at % 50 === 0 ? `export const url = 'https://dome-${at}.fernhollow.example/turn'` : ''
  return `${lines.join('\n')}\n${address}\nfunction turn(angle, side, all) {\n  return { angle, side, all }\n}\n`
}

const WATCHERS = `import { readFileSync, writeFileSync } from 'node:fs'
import { defineSettings, setting } from 'mappa-settings'
import { watchSettings } from 'mappa-settings/node'
const count = Number(process.argv[2])
const definition = defineSettings({ places: setting.integer('Places', { default: 0 }) })
let told = 0, all
const watched = Array.from({ length: count }, () => watchSettings(definition, () => { if (++told % count === 0) all() }, { environment: {} }))
await new Promise((resolve) => setTimeout(resolve, 500))
const before = process.cpuUsage()
await new Promise((resolve) => setTimeout(resolve, 2000))
const idle = process.cpuUsage(before)
const times = []
for (let at = 1; at <= 9; at++) {
  const seen = new Promise((resolve) => { all = resolve })
  const began = performance.now()
  writeFileSync('.env', 'PLACES=' + at + '\\n')
  await seen
  times.push(performance.now() - began)
}
for (const each of watched) each.stop()
console.log(JSON.stringify({ took: times.sort((a, b) => a - b)[4], idle: (idle.user + idle.system) / 20000, memory: ${MOST_MEMORY} / 1024 }))
`

/** More and more watchers of the same files in one process: until all know of a change, and what they cost while nothing changes. */
export function growthOfWatchers(): Growth {
  const rows = [1, 10, 100, 1000].map((count) =>
    inDirectory((directory) => {
      mkdirSync(join(directory, 'node_modules'))
      symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(directory, 'node_modules/mappa-settings'))
      writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
      writeFileSync(join(directory, '.env'), 'PLACES=0\n')
      writeFileSync(join(directory, 'watch.js'), WATCHERS)
      const { stdout, stderr } = spawnSync(process.execPath, ['watch.js', String(count)], {
        cwd: directory,
        encoding: 'utf8',
      })
      if (stdout === '') throw new Error(stderr)
      const { took, idle, memory } = JSON.parse(stdout) as { took: number; idle: number; memory: number }
      return [count, round(took), round(idle, 1), round(memory)]
    }),
  )
  const columns = [
    'watchers in one process',
    'until all know of a change (ms)',
    'of one processor, idle (%)',
    'memory (MB)',
  ]
  return { title: 'Watchers', columns, rows }
}
