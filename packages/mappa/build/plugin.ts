import { join } from 'node:path'
import { defineConfig } from 'vite'
import { chunks } from './chunks.ts'
import { parserApart } from './parser.ts'
import { thirdPartyLicenses } from './third-party-licenses.ts'

const ENTRY = join(import.meta.dirname, '../src/vite/index.ts')

/**
 * Builds the plugin, with copies of all that it needs in one file: everybody who starts Vite waits for it, and Node takes longer to
 * open a file than to read it. What is needed only now and then is imported when it is, and so lies apart.
 */
export default defineConfig({
  plugins: [parserApart(false), thirdPartyLicenses()],
  envDir: false,
  ssr: { noExternal: true },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: false,
    minify: true,
    ssr: true,
    rolldownOptions: {
      input: { vite: ENTRY },
      external: [/^node:/, /^mappa(\/|$)/, 'vite'],
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/vite-[name].js',
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [{ debugName: 'chunks', name: chunks([ENTRY], true) }],
        },
        comments: { annotation: true, legal: false, jsdoc: false },
      },
    },
  },
})
