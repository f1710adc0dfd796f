import react from '@vitejs/plugin-react'
import mappa from 'mappa-settings/vite'
import { defineConfig } from 'vite'

/** The page that visitors see. While developing, booking slips come from the server of the desk. */
export default defineConfig({
  // The server is built once: rehearsals take place on the page of production.
  plugins: [react(), mappa({ allowOtherStage: true })],
  build: { outDir: 'dist/page' },
  server: { proxy: { '/bookings': 'http://127.0.0.1:4300' } },
})
