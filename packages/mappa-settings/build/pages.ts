import { defineConfig } from 'vite'

/** Builds what runs in a page: one small file that imports nothing, beside the others in `dist`. */
export default defineConfig({
  envDir: false,
  build: {
    target: 'es2022',
    outDir: 'dist',
    emptyOutDir: false,
    lib: {
      entry: {
        browser: 'src/browser/index.ts',
        guarded: 'src/core/resolve/guarded.ts',
        'not-for-pages/node': 'src/browser/not-for-pages/node.ts',
        'not-for-pages/preload': 'src/browser/not-for-pages/preload.ts',
      },
      formats: ['es'],
      fileName: (_, name) => `${name}.js`,
    },
    // Without this, blanks would stay in a library.
    rolldownOptions: { output: { minify: true } },
  },
})
