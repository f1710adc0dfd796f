import { Hono } from 'hono'
import { cors } from 'hono/cors'
import { stageOf } from 'mappa-settings/node'
import { domeState, turnDome } from './dome.ts'
import { settings } from './settings.ts'

/** The routes of the dome service. */
export const app = new Hono()

app.get('/health', async (context) => {
  const dome = await domeState().then(
    () => 'answers',
    (error: Error) => error.message,
  )
  return context.json({ stage: stageOf(settings), dome, motors: settings.dome.motors })
})

app.get('/dome', async (context) => context.json(await domeState()))

app.post('/dome/turn/:azimuth{[0-9]+}', async (context) =>
  context.json(await turnDome(Number(context.req.param('azimuth')) % 360)),
)

// Any page may ask for what visitors are told anyway.
app.use('/night', cors())

app.get('/night', (context) => {
  const { places, starMapUrl, closedBecause } = settings.night
  return context.json({ places, starMapUrl, closed: closedBecause ?? null })
})

app.onError((error, context) => context.json({ error: error.message }, 502))
