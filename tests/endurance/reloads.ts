import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { makeProject, REPOSITORY } from '../support/project.ts'
import { type LongRun, withCleanup } from './long-run.ts'

const PROGRAM = `import { writeFileSync } from 'node:fs'
import { defineSettings, setting } from 'mappa-settings'
import { watchSettings } from 'mappa-settings/node'
const count = Number(process.argv[2])
const tree = Object.fromEntries(Array.from({ length: 40 }, (_, at) => ['s' + at, setting.string('Text', { default: 'x' })]))
const definition = defineSettings({ places: setting.integer('Places', { default: 0 }), key: setting.string('Key', { secret: true }), tree })
let arrived
const settings = watchSettings(definition, ({ places, key }) => arrived?.(places, key.identity), { environment: {} })
const heap = () => { gc(); gc(); return process.memoryUsage().heapUsed }
let first = 0
for (let at = 1; at <= count; at++) {
  const seen = new Promise((resolve) => { arrived = (places) => places === at && resolve() })
  // A key that a test has compared, and that is another one each time.
  writeFileSync('.env', 'PLACES=' + at + '\\nKEY=' + 'drill-'.repeat(500) + at + '\\n')
  await seen
  if (at === Math.ceil(count / 5)) first = heap()
}
const grown = heap() - first
settings.stop()
// A handle is gone in the turn after it was closed.
await new Promise((resolve) => setTimeout(resolve, 50))
console.log(JSON.stringify({ places: settings.current.places, grown, handles: process.getActiveResourcesInfo().filter((each) => each !== 'PipeWrap') }))
`

/** A program may read its settings again as often as it likes. */
export const reloads: LongRun = {
  name: 'reloads',
  promise: 'a program that reads its settings again holds no more memory than before',
  short: 25,
  long: 10_000,
  run: (count) =>
    withCleanup((context) => {
      const { root } = makeProject(context, { 'watch.mjs': PROGRAM, '.env': 'PLACES=0\nKEY=drill-of-the-dome\n' })
      const words = ['--expose-gc', 'watch.mjs', String(count)]
      const { stdout, stderr, status } = spawnSync(process.execPath, words, { cwd: root, encoding: 'utf8', env: {} })
      assert.equal(status, 0, `${stderr} (${REPOSITORY})`)
      const { places, grown, handles } = JSON.parse(stdout) as { places: number; grown: number; handles: string[] }
      assert.equal(places, count)
      assert.ok(grown < 1_000_000, `the heap has grown by ${grown} bytes`)
      assert.deepEqual(handles, [])
    }),
}
