import { defineConfig } from 'vite'

/** What the plugin needs only now and then: for code that reads variables, and where something is wrong or has to be written. */
const SELDOM =
  /src\/(vite\/(code\/(env-reads|page-imports|parse)|border\/(violation|import-sites)|serving\/(problem-page|fill-answer))|node\/(source|writing|patterns)|core\/(index|init|derive\/(?!modules)|envfile\/(document|edit|quote|day)))/

/**
 * Builds the plugin into `dist`, with copies of all that it needs in one file: everybody who starts Vite waits for it, and Node
 * takes longer to open a file than to read it.
 */
export default defineConfig({
  envDir: false,
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: false,
    minify: true,
    ssr: true,
    rolldownOptions: {
      input: { vite: 'src/vite/index.ts' },
      external: [
        /^node:/,
        /^mappa(\/|$)/,
        'jiti',
        'vite',
        'magic-string',
        'proper-lockfile',
        'fflate',
        '@babel/parser',
        '@eslint-community/regexpp',
      ],
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/vite-[name].js',
        codeSplitting: { groups: [{ name: 'plugin', test: (id) => id.includes('/src/') && !SELDOM.test(id) }] },
        comments: { annotation: true, legal: false, jsdoc: false },
      },
    },
  },
})
