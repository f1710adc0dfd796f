import { createHmac } from 'node:crypto'
import { serve } from '@hono/node-server'
import { Hono } from 'hono'
import { settings } from './settings.js'

const app = new Hono()
app.get('/', (context) => {
  const slip = createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8)
  const { map, notice } = settings.visitor
  return context.html(`<p id="map">${map}</p><p id="notice">${notice}</p><p id="slip">${slip}</p>`)
})
app.get('/settings', (context) => context.json({ desk: settings.desk }))
serve({ fetch: app.fetch, port: Number(process.env.PORT ?? 3000) })
