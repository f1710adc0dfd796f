import { sveltekit } from '@sveltejs/kit/vite'
import mappa from 'mappa-settings/vite'
import { defineConfig } from 'vite'

export default defineConfig({ plugins: [mappa({ stage: process.env.MAPPA_STAGE }), sveltekit()] })
