import { join } from 'node:path'
import { defineConfig } from 'vite'

/** Builds the page of `mappa view`, beside the command that serves it. */
export default defineConfig({
  envDir: false,
  base: './',
  build: {
    target: 'es2022',
    outDir: join(import.meta.dirname, '../../packages/mappa-cli/dist/web'),
    emptyOutDir: true,
    modulePreload: false,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: { assetFileNames: 'assets/[name].[ext]', entryFileNames: 'assets/[name].js', codeSplitting: false },
    },
  },
})
