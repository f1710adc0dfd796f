import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { defineConfig } from 'vite'
import { root } from '../steps.mjs'
import { chunks } from './chunks.ts'
import { parserApart } from './parser-apart.ts'
import { thirdPartyLicenses } from './third-party-licenses.ts'

const COMMAND = join(root, 'packages/mappa-cli')
const manifest = JSON.parse(readFileSync(join(COMMAND, 'package.json'), 'utf8'))

/** What nearly every command loads: the project, its definition and layers, and what prints a report. */
const START = ['src/main.ts', 'src/commands/check/command.ts'].map((file) => join(COMMAND, file))

/** Builds the command, with copies of what it needs of the library: it works also where no program uses that. */
export default defineConfig({
  envDir: false,
  plugins: [parserApart(), thirdPartyLicenses(['@babel/parser'])],
  // Everything that is imported is built in, so that little has to be installed; what is required only when it is needed is installed
  // beside the command.
  ssr: { noExternal: true, external: Object.keys(manifest.dependencies) },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    minify: false,
    ssr: true,
    rolldownOptions: {
      input: {
        main: 'src/main.ts',
        'survey-worker': 'src/analysis/survey/worker.ts',
        'definition-loader': 'src/project/definition/index.ts',
        patterns: 'src/project/patterns/check-patterns.ts',
        library: '@mappa/core',
      },
      // The kinds are one chunk with what needs them at once, or asked for alone: either way is right.
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
