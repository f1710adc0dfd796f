import { join } from 'node:path'
import { defineConfig } from 'vite'
import { chunks } from './chunks.ts'
import { parserApart } from './parser.ts'
import { thirdPartyLicenses } from './third-party-licenses.ts'

/** What a program imports that loads its settings. */
const START = ['src/core/index.ts', 'src/node/index.ts'].map((file) => join(import.meta.dirname, '..', file))

/** Builds what programs and configurations import. What runs in pages and the plugin for Vite are built by themselves. */
export default defineConfig({
  plugins: [
    {
      // The functions of `setting` stay a module of their own: a namespace that is built into another file can't be shaken.
      name: 'setting-apart',
      enforce: 'pre',
      resolveId: (id, importer) =>
        id === './definition/kinds/index.ts' && importer?.endsWith('/core/index.ts')
          ? { id: './setting.js', external: 'relative' as never }
          : null,
    },
    parserApart(true),
    thirdPartyLicenses(['@babel/parser']),
  ],
  // No .env file is read by the build.
  envDir: false,
  // The package has no dependencies: what a configuration or a report needs of others is built in, and loaded only by them.
  ssr: { noExternal: true },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    // Readable where an error points into it, but without comments: the types carry them, and text costs time to load.
    minify: false,
    ssr: true,
    rolldownOptions: {
      input: {
        index: 'src/core/index.ts',
        setting: 'src/core/definition/kinds/index.ts',
        envfile: 'src/core/envfile/index.ts',
        derive: 'src/core/derive/index.ts',
        node: 'src/node/index.ts',
        preload: 'src/node/load/preload.ts',
        bundler: 'src/bundler/index.ts',
        testing: 'src/testing/index.ts',
        store: 'src/store/index.ts',
        etcd: 'src/etcd/index.ts',
      },
      external: [/^node:/, /^mappa(\/|$)/],
      // What the bundlers' entry imports at once, programs import only if they need it: a directory is a chunk either way.
      checks: { ineffectiveDynamicImport: false },
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/[name].js',
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [{ debugName: 'chunks', name: chunks(START) }],
        },
        comments: { annotation: true, legal: false, jsdoc: false },
      },
    },
  },
})
