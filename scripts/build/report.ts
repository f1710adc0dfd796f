import { join } from 'node:path'
import { defineConfig } from 'vite'

/** Builds what writes a report: the components of the page, and what makes text of them, in one file that needs no package. */
export default defineConfig({
  envDir: false,
  ssr: { noExternal: true },
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    target: 'node20',
    ssr: 'report/index.tsx',
    outDir: join(import.meta.dirname, '../../packages/mappa-cli/dist/report'),
    emptyOutDir: true,
    minify: true,
  },
})
