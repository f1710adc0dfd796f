// One file of types for each entry, and some for what they share: what programs can import, and nothing else of the library.
// Run with tsx.
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { rollup } from 'rollup'
import { dts } from 'rollup-plugin-dts'
import { allProblems } from '../packages/mappa-settings/src/core/problems/catalogue/all.ts'
import { catalogue } from '../packages/mappa-settings/src/core/problems/catalogue/index.ts'

const dist = join(import.meta.dirname, '../packages/mappa-settings/dist')
const from = join(dist, 'types')
const to = join(dist, 'rolled-types')

const entries = {
  index: 'core/index',
  setting: 'core/definition/kinds/index',
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
const union = (codes) => codes.map((code) => `'${code}'`).join(' | ')
const loading = Object.keys(catalogue())
const others = Object.keys(allProblems()).filter((code) => !loading.includes(code))
let text = readFileSync(problems, 'utf8')
for (const [type, codes] of [
  ['keyof ReturnType<typeof allProblems>', `LoadingCode | ${union(others)}`],
  ['keyof ReturnType<typeof catalogue>', union(loading)],
]) {
  if (!text.includes(type)) throw new Error(`${problems} does not hold ${type}.`)
  text = text.replace(type, codes)
}
writeFileSync(problems, text)

const bundle = await rollup({
  input: Object.fromEntries(Object.entries(entries).map(([name, file]) => [name, join(from, `${file}.d.ts`)])),
  external: [/^node:/, 'vite'],
  plugins: [
    {
      // A namespace that is put into another file loses what editors show of its functions.
      name: 'setting-apart',
      resolveId: (id, importer = '') =>
        /\/kinds\/index\.[jt]s$/.test(id) && importer === join(from, 'core/index.d.ts')
          ? { id: join(from, 'setting.js'), external: 'relative' }
          : null,
    },
    dts(),
  ],
})
const { output } = await bundle.generate({
  dir: to,
  format: 'es',
  entryFileNames: '[name].d.ts',
  chunkFileNames: 'shared/[name].d.ts',
})
for (const { fileName, code } of output) {
  const file = join(to, fileName)
  mkdirSync(dirname(file), { recursive: true })
  // Hundreds of codes in a line need no spaces between them.
  const narrow = code.replace(/^(?: {4})+/gm, (indentation) => indentation.slice(indentation.length / 2))
  writeFileSync(file, narrow.replaceAll("' | '", "'|'"))
}
await bundle.close()
rmSync(from, { recursive: true })
renameSync(to, from)
