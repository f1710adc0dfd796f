import { join } from 'node:path'
import { defineConfig } from 'vite'
import { entries, LIBRARY } from '../entries.mjs'
import { chunks } from './chunks.ts'
import { shortLines } from './short-lines.ts'
import { thirdPartyLicenses } from './third-party-licenses.ts'

/** The functions of `setting`, as those who need them as one object name them. */
const KINDS: ReadonlySet<string> = new Set([
  './definition/kinds/index.ts',
  './index.ts',
  '@mappa/core/definition/kinds',
])
/** Where they lie: what lies where the sources have their first directory in common lies in `dist` afterwards, and is named from there. */
const SETTING = join(LIBRARY, '../setting.js')
const CLASSES = { class: true, function: false }

const core = (file: string) => join(LIBRARY, '../core/src', file)
const toPath = (name: string) => join(LIBRARY, entries[name]!)
// What runs in pages is built by itself.
const { vite: _plugin, browser: _browser, ...others } = entries

/** What can be imported, by the names in `dist`. */
const INPUT = {
  ...Object.fromEntries(Object.keys({ ...others, vite: '' }).map((name) => [name, toPath(name)])),
  setting: core('definition/kinds/index.ts'),
}
/** What a program imports that loads its settings. */
const START = [toPath('index'), toPath('node'), INPUT.setting]

/** Builds what programs and configurations import. What runs in pages is built by itself. */
export default defineConfig({
  plugins: [
    {
      // The functions of `setting` stay a module of their own: a namespace that is built into another file can't be shaken, and making
      // one needs helpers that no page can load.
      name: 'setting-apart',
      enforce: 'pre',
      resolveId: (id, importer = '') =>
        KINDS.has(id) && /\/core\/src\/(?:index|definition\/kinds\/by-name)\.ts$/.test(importer)
          ? { id: SETTING, external: 'relative' as never }
          : null,
    },
    {
      // Tables of names that nothing asks for; how they are written, no bundler can tell that.
      name: 'without-tables',
      transform: (code, id) =>
        id.endsWith('/jsonc-parser/lib/esm/main.js')
          ? code.replaceAll(/^export var (\w+);\n\(function \(\1\) \{\n[^}]*\}\)\(\1 \|\| \(\1 = \{\}\)\);$/gm, '')
          : null,
    },
    shortLines(),
    thirdPartyLicenses(),
  ],
  // No .env file is read by the build.
  envDir: false,
  // The package has no dependencies: what a configuration or a report needs of others is built in, and loaded only by them.
  ssr: { noExternal: true },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    minify: false,
    ssr: true,
    rolldownOptions: {
      input: INPUT,
      external: [/^node:/, /^mappa-settings(\/|$)/, 'vite'],
      // What the bundlers' entry imports at once, programs import only if they need it: a directory is a chunk either way.
      checks: { ineffectiveDynamicImport: false },
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/[name].js',
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            {
              debugName: 'chunks',
              name: chunks(START, {
                chunk: 'plugin',
                entry: toPath('vite'),
                others: [...Object.keys(others).map(toPath), INPUT.setting],
              }),
            },
          ],
        },
        comments: { annotation: true, legal: false, jsdoc: false },
        // Text costs time to load, and place in every image that has the package. Errors and logs show names of classes.
        minify: {
          compress: { keepNames: CLASSES },
          mangle: { keepNames: CLASSES },
          codegen: { removeWhitespace: true },
        },
      },
    },
  },
})
