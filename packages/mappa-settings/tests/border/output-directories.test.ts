import assert from 'node:assert/strict'
import { lstatSync, mkdirSync, readdirSync, readFileSync, readlinkSync, symlinkSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import type { Vite } from '@mappa/tests/support/border/try-attempt'
import { importCompat } from '@mappa/tests/support/compat'
import { makeProject } from '@mappa/tests/support/project'
import mappa, { type MappaOptions } from 'mappa-settings/vite'
import type { InlineConfig, Plugin } from 'vite'

const versions: readonly Vite[] = await Promise.all(
  ['vite', 'vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)),
)
const KEY = 'slip-93ae77c0d1f4'
const PAGE = '<!doctype html><html><body><script type="module" src="/src/main.ts"></script></body></html>\n'

/** The project of a page, without a leak in its bundle. */
const FILES = {
  'settings.definition.mjs': `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({ desk: { key: setting.string('Key that signs booking slips', { secret: true }) } })
`,
  '.env': '# nothing here yet\n',
  '.env.production.local': `DESK_KEY=${KEY}\n`,
  '.env.development.local': `DESK_KEY=${KEY}-drill\n`,
  'index.html': PAGE,
  'src/main.ts': "document.title = 'Night desk'\n",
}
const IN_WEB = { 'web/index.html': PAGE, 'web/src/main.ts': FILES['src/main.ts'] }

interface Layout {
  readonly how: string
  readonly files?: Readonly<Record<string, string>>
  /** Links, by what they lead to. */
  readonly links?: Readonly<Record<string, string>>
  readonly config: InlineConfig
  readonly options?: MappaOptions
  /** Files that the message names, relative to the root of Vite. */
  readonly named: readonly string[]
}

const LAYOUTS: readonly Layout[] = [
  {
    how: 'at the root',
    config: { build: { outDir: '.' } },
    named: ['.env.production.local', 'settings.definition.mjs'],
  },
  {
    how: 'above the root',
    files: IN_WEB,
    config: { root: 'web', build: { outDir: '..' } },
    options: { root: '..' },
    named: ['../.env.production.local'],
  },
  {
    how: 'beside a server',
    files: { ...IN_WEB, 'server/.env': `DESK_KEY=${KEY}\n`, 'server/config/keys.json': `{"key":"${KEY}"}\n` },
    config: { root: 'web', build: { outDir: '../server' } },
    options: { root: '..' },
    named: ['../server/.env', '../server/config/keys.json'],
  },
  {
    how: 'at the root, by the option of the bundler',
    // Relative to the current directory, so the test gives the whole of it.
    config: { build: { rollupOptions: { output: { dir: '<root>' } } } },
    named: ['.env.production.local'],
  },
  {
    how: 'with a link to a directory',
    files: { 'config/keys.json': `{"key":"${KEY}"}\n`, 'dist/old.txt': 'old\n' },
    links: { 'dist/config': '../config' },
    config: {},
    named: ['dist/config/keys.json'],
  },
  {
    how: 'with a link to a file',
    files: { 'notes.txt': `${KEY}\n`, 'dist/old.txt': `${KEY}\n` },
    links: { 'dist/notes.txt': '../notes.txt' },
    config: {},
    named: ['dist/notes.txt', 'dist/old.txt'],
  },
  {
    how: 'at the root, with a linked package',
    files: {
      'checkout/package.json': '{ "name": "dome-kit" }\n',
      'checkout/test/keys.ts': `export default '${KEY}'\n`,
    },
    links: { 'packages/dome-kit': '../checkout' },
    config: { build: { outDir: '.' } },
    named: ['.env.production.local', 'checkout/test/keys.ts'],
  },
]

/** Everything below a directory, links as links; packages of the project are no part of it. */
function treeOf(directory: string, below = ''): Record<string, string> {
  return Object.fromEntries(
    readdirSync(join(directory, below)).flatMap((name) => {
      const [file, path] = [join(below, name), join(directory, below, name)]
      const stats = lstatSync(path)
      if (stats.isSymbolicLink()) return [[file, `-> ${readlinkSync(path)}`]]
      return stats.isDirectory() ? Object.entries(treeOf(directory, file)) : [[file, readFileSync(path, 'latin1')]]
    }),
  )
}

/** Builds a page, with the plugin or without, and says what is there afterwards. */
async function outcome(context: TestContext, layout: Layout, emptyOutDir: boolean, vite: Vite, plugins: Plugin[][]) {
  const { files, links = {}, config } = layout
  const { root } = makeProject(context, { ...FILES, ...files })
  for (const [link, target] of Object.entries(links)) {
    mkdirSync(dirname(join(root, link)), { recursive: true })
    symlinkSync(target, join(root, link))
  }
  const error = await vite
    .build({
      configFile: false,
      logLevel: 'silent',
      ...config,
      root: join(root, config.root ?? ''),
      build: { ...JSON.parse(JSON.stringify(config.build ?? {}).replace('<root>', root)), emptyOutDir },
      plugins,
    })
    .then(
      () => null,
      (reason: Error) => reason,
    )
  return { error, tree: treeOf(root) }
}

for (const vite of versions) {
  describe(`a build deletes nothing that the same build without the plugin leaves (vite ${vite.version})`, () => {
    for (const layout of LAYOUTS)
      for (const emptyOutDir of [false, true])
        it(`${layout.how}, emptyOutDir ${emptyOutDir}`, async (context) => {
          const plugin = mappa({ ...layout.options, writeTypes: false })
          const [plain, checked] = [
            await outcome(context, layout, emptyOutDir, vite, []),
            await outcome(context, layout, emptyOutDir, vite, [plugin]),
          ]
          assert.deepEqual(checked.tree, plain.tree)
          const message = checked.error?.message ?? ''
          assert.ok(!message.includes(KEY))
          // What Vite itself has emptied can't leak any more.
          if (emptyOutDir) return
          assert.equal(plain.error, null)
          assert.match(message, /leaks-on-disk/)
          for (const file of layout.named) assert.ok(message.includes(file), `${file} is not named:\n${message}`)
        })
  })
}
