import { defineConfig } from 'vite'
import { thirdPartyLicenses } from './third-party-licenses.ts'

/**
 * Builds the plugin, with copies of all that it needs in one file: everybody who starts Vite waits for it, and Node takes longer to
 * open a file than to read it. What is needed only now and then is imported when it is, and so lies apart.
 */
export default defineConfig({
  plugins: [thirdPartyLicenses()],
  envDir: false,
  ssr: { noExternal: true },
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: false,
    minify: true,
    ssr: true,
    rolldownOptions: {
      input: { vite: 'src/vite/index.ts' },
      external: [/^node:/, /^mappa(\/|$)/, 'vite'],
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/vite-[name].js',
        comments: { annotation: true, legal: false, jsdoc: false },
      },
    },
  },
})
