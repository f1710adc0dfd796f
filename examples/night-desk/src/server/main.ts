import { settings } from 'virtual:mappa/server'
import { serve } from '@hono/node-server'
import { stageOf } from 'mappa-settings/node'
import { app } from './app.ts'

serve({ fetch: app.fetch, port: settings.server.port, hostname: '127.0.0.1' }, ({ port }) =>
  console.log(`night desk (${stageOf(settings)}) listens on http://127.0.0.1:${port}`),
)
