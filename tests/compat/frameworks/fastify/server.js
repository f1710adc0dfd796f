import { createHmac } from 'node:crypto'
import Fastify from 'fastify'
import { settings } from './settings.js'

const app = Fastify({ logger: true })
app.decorate('settings', settings)
app.get('/', (_request, reply) => {
  const slip = createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8)
  const { map, notice } = settings.visitor
  return reply.type('text/html').send(`<p id="map">${map}</p><p id="notice">${notice}</p><p id="slip">${slip}</p>`)
})
app.get('/settings', () => ({ desk: settings.desk }))
app.log.info({ settings }, 'settings are checked')
await app.listen({ port: Number(process.env.PORT ?? 3000) })
