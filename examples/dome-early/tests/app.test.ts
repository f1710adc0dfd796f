import assert from 'node:assert/strict'
import { afterEach, it } from 'node:test'
import { app } from '../src/app.ts'

/** What the service asked the controller, which is not there. */
const asked: { url: string; key: string | null; body: unknown }[] = []
const { fetch } = globalThis
globalThis.fetch = async (url, { headers, body } = {}) => {
  asked.push({
    url: String(url),
    key: new Headers(headers).get('authorization'),
    body: body ? JSON.parse(String(body)) : null,
  })
  return Response.json({ slit: 'closed', azimuth: 135 })
}
afterEach(() => asked.splice(0))
process.on('exit', () => {
  globalThis.fetch = fetch
})

it('asks the controller with the key', async () => {
  const answer = await app.request('/dome')
  assert.deepEqual(await answer.json(), { slit: 'closed', azimuth: 135 })
  assert.equal(asked[0]?.url, 'http://127.0.0.1:4200/dome')
  assert.match(String(asked[0]?.key), /^Bearer drill-\w{24}$/)
})

it('turns the dome, and closes it for rain with the same key', async () => {
  await app.request('/dome/turn/495', { method: 'POST' })
  await app.request('/rain/3', { method: 'POST' })
  assert.deepEqual(asked[0]?.body, { azimuth: 135, rehearse: true })
  assert.equal(asked[1]?.url, 'http://127.0.0.1:4200/dome?reason=rain-3')
  assert.equal(asked[1]?.key, asked[0]?.key)
})

it('says where the star map is', async () => {
  const night = (await (await app.request('/night')).json()) as { starMapUrl: string }
  assert.equal(new URL(night.starMapUrl).hostname, 'maps.fernhollow.example')
})
