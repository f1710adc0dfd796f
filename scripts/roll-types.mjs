// One file of types for each entry, and some for what they share: what programs can import, and nothing else of the library.
// Run with tsx.
import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { rollup } from 'rollup'
import { dts } from 'rollup-plugin-dts'
import { allProblems } from '../packages/mappa/src/core/problems/catalogue/all.ts'
import { catalogue } from '../packages/mappa/src/core/problems/catalogue/index.ts'

const dist = join(import.meta.dirname, '../packages/mappa/dist')
const from = join(dist, 'types')
const to = join(dist, 'rolled-types')

const entries = {
  index: 'core/index',
  envfile: 'core/envfile/index',
  derive: 'core/derive/index',
  node: 'node/index',
  preload: 'node/load/preload',
  browser: 'browser/index',
  vite: 'vite/index',
  bundler: 'bundler/index',
  testing: 'testing/index',
  store: 'store/index',
  etcd: 'etcd/index',
}

// The codes of problems are public; the sentences from which the compiler takes them are not.
const problems = join(from, 'core/problems/problem.d.ts')
const codesOf = (catalogue) =>
  Object.keys(catalogue)
    .map((code) => `'${code}'`)
    .join(' | ')
let text = readFileSync(problems, 'utf8')
for (const [type, codes] of [
  ['keyof ReturnType<typeof allProblems>', codesOf(allProblems())],
  ['keyof ReturnType<typeof catalogue>', codesOf(catalogue())],
]) {
  if (!text.includes(type)) throw new Error(`${problems} does not hold ${type}.`)
  text = text.replace(type, codes)
}
writeFileSync(problems, text)

const bundle = await rollup({
  input: Object.fromEntries(Object.entries(entries).map(([name, file]) => [name, join(from, `${file}.d.ts`)])),
  external: [/^node:/, 'vite'],
  plugins: [dts()],
})
await bundle.write({
  dir: to,
  format: 'es',
  entryFileNames: '[name].d.ts',
  chunkFileNames: 'shared/[name].d.ts',
})
await bundle.close()
rmSync(from, { recursive: true })
renameSync(to, from)
