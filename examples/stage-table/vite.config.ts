import { join } from 'node:path'
import { defineConfig } from 'vite'

const packages = join(import.meta.dirname, '../../packages')

/** A page of plain files: any host can serve it, and it asks nobody for anything. */
export default defineConfig({
  base: './',
  envDir: false,
  // The table of the command is made of the sources of the library, so this page takes the same.
  resolve: {
    alias: [
      { find: /^mappa-settings$/, replacement: join(packages, 'core/src/index.ts') },
      { find: /^mappa-settings\/envfile$/, replacement: join(packages, 'core/src/envfile/index.ts') },
    ],
  },
  build: { modulePreload: false, assetsInlineLimit: 0 },
})
