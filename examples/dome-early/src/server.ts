import { serve } from '@hono/node-server'
import { app } from './app.ts'

serve({ fetch: app.fetch, port: 4100, hostname: '127.0.0.1' }, ({ port }) => {
  console.log(`dome service listens on http://127.0.0.1:${port}`)
})
