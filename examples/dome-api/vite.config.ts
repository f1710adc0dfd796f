import { defineConfig } from 'vite'

/** One file that Node runs. Vite's own reading of .env files is off: the settings are Mappa's to read. */
export default defineConfig({
  envDir: false,
  build: {
    ssr: 'src/server.ts',
    target: 'node20',
    outDir: 'dist',
  },
})
