import { serve } from '@hono/node-server'
import { stageOf } from 'mappa-settings/node'
import { app } from './app.ts'
import { settings } from './settings.ts'

serve({ fetch: app.fetch, port: settings.server.port, hostname: '127.0.0.1' }, ({ port }) => {
  if (settings.server.logLevel === 'quiet') return
  console.log(`dome service (${stageOf(settings)}) listens on http://127.0.0.1:${port}`)
  // A secret in a log line is a mask, never its value.
  if (settings.server.logLevel === 'chatty') console.log(`key of the dome controller: ${settings.dome.key}`)
})
