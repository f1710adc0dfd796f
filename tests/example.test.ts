import assert from 'node:assert/strict'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { after, before, describe, it } from 'node:test'
import { type RunningExample, runExample } from '../examples/dome-api/simulated/run-example.ts'

describe('the dome service', () => {
  let running: RunningExample
  before(async () => {
    running = await runExample()
  })
  after(() => running.end())

  const keyOf = (stage: string) =>
    /DOME_KEY=(.*)/.exec(readFileSync(join(running.root, `.env.${stage}.local`), 'utf8'))![1]!

  it('runs in each stage with the values of that stage, and shows no secret', async () => {
    const stages: readonly [string, object, object][] = [
      ['development', { stage: 'development', dome: 'answers', motors: false }, { places: 3, closed: null }],
      [
        'staging',
        { stage: 'staging', dome: 'answers', motors: false },
        { places: 12, closed: 'Rehearsal: nights booked here do not take place.' },
      ],
      ['production', { stage: 'production', dome: 'answers', motors: true }, { places: 12, closed: null }],
    ]
    for (const [stage, health, night] of stages) {
      const server = await running.start(stage)
      assert.ok(server.url !== null, server.printed())
      const told = await (await fetch(`${server.url}/health`)).json()
      assert.deepEqual(told, health)
      assert.deepEqual(await (await fetch(`${server.url}/night`)).json(), {
        ...night,
        starMapUrl: 'https://maps.fernhollow.example/tonight',
      })
      const turned = await (await fetch(`${server.url}/dome/turn/500`, { method: 'POST' })).json()
      assert.deepEqual(turned, { slit: stage === 'production' ? 'open' : 'closed', azimuth: 140 })
      await server.stop()
      assert.ok(!server.printed().includes(keyOf(stage)))
      if (stage === 'development')
        assert.match(
          server.printed(),
          /key of the dome controller: \(secret, 42 characters, from \.env\.development\.local:2\)/,
        )
    }
  })

  it('starts with a key that the controller does not know, and tells of it without naming it', async () => {
    const server = await running.start('production', { DOME_KEY: 'open-nothing-at-all-with-this' })
    const { dome } = (await (await fetch(`${server.url}/health`)).json()) as { dome: string }
    assert.equal(dome, 'the dome controller answered 401')
    await server.stop()
  })

  it('does not start with wrong settings, and says all that is wrong', async () => {
    const file = join(running.root, '.env.production')
    writeFileSync(file, readFileSync(file, 'utf8').replace('4120', '412000').replace('DOME_MOTORS', 'DOME_MOTRS'))
    rmSync(join(running.root, '.env.production.local'))
    const server = await running.start('production')
    assert.deepEqual([server.url, server.exitCode()], [null, 78])
    for (const part of [
      '2 errors and 1 notice',
      'DOME_KEY is not set',
      'is "412000"',
      'Rename DOME_MOTRS to DOME_MOTORS',
    ]) {
      assert.ok(server.printed().includes(part), part)
    }
  })
})
