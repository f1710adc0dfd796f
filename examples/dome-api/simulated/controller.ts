import { serve } from '@hono/node-server'
import { Hono } from 'hono'

/** A running, simulated dome controller. */
export interface Controller {
  readonly url: string
  readonly stop: () => Promise<void>
}

/**
 * Starts a simulated dome controller. It knows a drill key, with which the dome never moves, and an open-sky
 * key, with which it does; without one of them it answers nothing.
 *
 * @param keys the keys it accepts
 * @param port the port to listen on; 0 for any free one
 */
export function startController(keys: readonly string[], port = 0): Promise<Controller> {
  const dome = { slit: 'closed' as 'open' | 'closed', azimuth: 0 }
  const app = new Hono()
  app.use(async (context, next) => {
    const key = context.req.header('authorization')?.replace(/^Bearer /, '') ?? ''
    if (!keys.includes(key)) return context.json({ error: 'wrong key' }, 401)
    return next()
  })
  app.get('/dome', (context) => context.json(dome))
  app.post('/dome', async (context) => {
    const { azimuth, rehearse } = await context.req.json<{ azimuth: number; rehearse: boolean }>()
    const key = context.req.header('authorization') ?? ''
    const moves = !rehearse && key.startsWith('Bearer open-')
    if (moves) Object.assign(dome, { slit: 'open', azimuth })
    return context.json({ ...dome, azimuth })
  })
  return new Promise((resolve) => {
    const server = serve({ fetch: app.fetch, port, hostname: '127.0.0.1' }, (info) => {
      resolve({
        url: `http://127.0.0.1:${info.port}`,
        stop: () => new Promise((done) => server.close(() => done())),
      })
    })
  })
}
