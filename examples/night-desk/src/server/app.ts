import { readFileSync } from 'node:fs'
import { settings } from 'virtual:mappa/server'
import { serveStatic } from '@hono/node-server/serve-static'
import { Hono } from 'hono'
import { fillPage } from 'mappa-settings'
import { slipFor } from './slips.ts'

/** One build serves every stage: the page gets the values of the stage that this server runs in. */
const page = fillPage(readFileSync('dist/page/index.html', 'utf8'), settings)

/** The routes of the night desk. */
export const app = new Hono()

app.get('/', (context) => context.html(page))

app.post('/bookings', async (context) => {
  const { visitor } = await context.req.parseBody()
  if (typeof visitor !== 'string' || visitor.trim() === '') return context.text('A slip needs a name.', 400)
  return context.text(slipFor(visitor.trim()))
})

app.use('/assets/*', serveStatic({ root: 'dist/page' }))
