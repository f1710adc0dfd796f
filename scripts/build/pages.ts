import { join } from 'node:path'
import { defineConfig } from 'vite'
import { entries, LIBRARY } from '../entries.mjs'

/** Builds what runs in a page: one small file that imports nothing, beside the others in `dist`. */
export default defineConfig({
  envDir: false,
  build: {
    target: 'es2022',
    outDir: 'dist',
    emptyOutDir: false,
    lib: {
      entry: {
        browser: join(LIBRARY, entries['browser']!),
        guarded: join(LIBRARY, '../core/src/resolve/guarded.ts'),
        'not-for-pages/node': join(LIBRARY, 'src/browser/not-for-pages/node.ts'),
        'not-for-pages/preload': join(LIBRARY, 'src/browser/not-for-pages/preload.ts'),
      },
      formats: ['es'],
      fileName: (_, name) => `${name}.js`,
    },
    // Without this, blanks would stay in a library.
    rolldownOptions: { output: { minify: true } },
  },
})
