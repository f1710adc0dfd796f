import { reactRouter } from '@react-router/dev/vite'
import mappa from 'mappa-settings/vite'
import { defineConfig } from 'vite'

export default defineConfig({ plugins: [mappa({ stage: process.env.MAPPA_STAGE }), reactRouter()] })
