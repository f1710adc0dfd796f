import { Hono } from 'hono'
import { domeState, turnDome } from './dome.ts'
import { closeForRain } from './rain.ts'

/** The routes of the dome service, as it was in its first autumn. */
export const app = new Hono()

app.get('/dome', async (context) => context.json(await domeState()))

app.post('/dome/turn/:azimuth{[0-9]+}', async (context) =>
  context.json(await turnDome(Number(context.req.param('azimuth')) % 360)),
)

app.post('/rain/:millimetres{[0-9]+}', async (context) =>
  context.json(await closeForRain(Number(context.req.param('millimetres')))),
)

app.get('/night', (context) =>
  context.json({ places: 12, starMapUrl: 'https://maps.fernhollow.example/tonight', closed: null }),
)

app.onError((error, context) => context.json({ error: error.message }, 502))
