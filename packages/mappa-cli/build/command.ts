import { join } from 'node:path'
import { defineConfig } from 'vite'

/** Builds the command, with copies of what it needs of the library: it works also where no program uses that. */
export default defineConfig({
  envDir: false,
  resolve: { alias: { '@babel/parser': join(import.meta.dirname, 'lazy-parser.ts') } },
  // CommonJS whose names Node does not find; all other packages are installed beside the command.
  ssr: {
    noExternal: ['jsonc-parser', 'string-width', 'strip-ansi', 'ansi-regex', 'get-east-asian-width', 'emoji-regex'],
  },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    minify: false,
    ssr: true,
    rolldownOptions: {
      input: {
        main: 'src/main.ts',
        'definition-loader': 'src/project/definition/index.ts',
        library: '../mappa/src/core/index.ts',
      },
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/[name].js',
        comments: { annotation: true, legal: false, jsdoc: false },
      },
    },
  },
})
