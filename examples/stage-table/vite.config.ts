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
      { find: /^mappa-settings$/, replacement: join(packages, 'mappa-settings/src/core/index.ts') },
      { find: /^mappa-settings\/envfile$/, replacement: join(packages, 'mappa-settings/src/core/envfile/index.ts') },
    ],
  },
  build: { modulePreload: false, assetsInlineLimit: 0 },
})
