import { publicReplacements } from 'mappa-settings/bundler'
import mappa from 'mappa-settings/vite'

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  telemetry: false,
  vite: { plugins: [mappa({ stage: process.env.MAPPA_STAGE })] },
  nitro: {
    prerender: { routes: ['/about'] },
    replace: publicReplacements(import.meta.dirname, { objects: ['process.env'] }),
  },
})
