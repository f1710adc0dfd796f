import node from '@astrojs/node'
import { defineConfig } from 'astro/config'
import mappa from 'mappa-settings/vite'

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  vite: { plugins: [mappa({ stage: process.env.MAPPA_STAGE })] },
})
