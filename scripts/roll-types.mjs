// One file of types for each entry, and some for what they share: what programs can import, and nothing else of the library.
// Run with tsx.
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { catalogue } from '@mappa/core/problems/catalogue'
import { allProblems } from '@mappa/core/problems/catalogue/all'
import { rollup } from 'rollup'
import { dts } from 'rollup-plugin-dts'
import { entries, LIBRARY } from './entries.mjs'
import { root } from './steps.mjs'

const dist = join(LIBRARY, 'dist')
const from = join(dist, 'types')
const to = join(dist, 'rolled-types')

const source = (file) => file.replace(/^src\//, 'mappa-settings/src/').replace(/\.ts$/, '')
const inputs = {
  ...Object.fromEntries(Object.entries(entries).map(([name, file]) => [name, source(file)])),
  setting: 'core/src/definition/kinds/index',
}

// The codes of problems are public; the sentences from which the compiler takes them are not.
const problems = join(from, 'core/src/problems/problem.d.ts')
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

/** Where the types of a source were written. */
const typesOf = (file) => join(from, relative(join(root, 'packages'), file).replace(/\.ts$/, '.d.ts'))

const bundle = await rollup({
  input: Object.fromEntries(Object.entries(inputs).map(([name, file]) => [name, join(from, `${file}.d.ts`)])),
  external: [/^node:/, 'vite'],
  // The preload exports nothing, so its file of types is empty.
  onwarn: (warning, print) => void (warning.code === 'EMPTY_BUNDLE' || print(warning)),
  plugins: [
    {
      // A namespace that is put into another file loses what editors show of its functions.
      name: 'setting-apart',
      resolveId: (id, importer = '') =>
        /\/kinds\/index\.[jt]s$/.test(id) && importer === join(from, 'core/src/index.d.ts')
          ? { id: join(from, 'setting.js'), external: 'relative' }
          : null,
    },
    {
      name: 'own-packages',
      resolveId: (id) => (id.startsWith('@mappa/') ? typesOf(fileURLToPath(import.meta.resolve(id))) : null),
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
