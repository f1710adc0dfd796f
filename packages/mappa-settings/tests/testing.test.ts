import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { linkPackages } from '@mappa/tests/support/compat'
import { makeProject, REPOSITORY, run } from '@mappa/tests/support/project'
import { defineSettings, Secret, SettingsError, setting } from 'mappa-settings'
import { settingsFor } from 'mappa-settings/testing'

const definition = defineSettings({
  server: { port: setting.port('Port the dome service listens on', { default: 4100 }) },
  dome: {
    key: setting.string('Key the dome controller asks for', { secret: true, minLength: 12 }),
    url: setting.url('Address of the dome controller', { optional: true }),
    nights: setting.list('Nights on which it opens', { default: ['Fri', 'Sat'] }),
    pause: setting.duration('Pause between two turns', { default: '15m', stages: { production: { default: '1h' } } }),
    opens: setting.dateTime('When it opens', { optional: true }),
    motors: setting.boolean('Whether the motors may really move', { default: false }),
  },
})
const KEY = 'drill-0f4c9a7be2d8'

/** The codes of what is wrong with given values. */
function codesOf(given: object, options?: object): readonly string[] {
  try {
    settingsFor(definition, given as never, options as never)
    return []
  } catch (error) {
    assert.ok(error instanceof SettingsError, String(error))
    assert.ok(!error.message.includes(KEY), error.message)
    return error.problems.map((each) => each.code)
  }
}

describe('settings for a test', () => {
  it('come from defaults and what is given, typed and frozen', () => {
    const settings = settingsFor(definition, { 'dome.key': KEY, 'server.port': '4200', 'dome.nights': ['Mon'] })
    const { server, dome } = settings
    assert.deepEqual([server.port, dome.nights, dome.pause, dome.url], [4200, ['Mon'], 900_000, undefined])
    assert.ok(dome.key instanceof Secret)
    assert.equal(dome.key.reveal(), KEY)
    assert.ok(Object.isFrozen(settings) && Object.isFrozen(dome))
    assert.throws(() => (settings.server as { prot?: number }).prot, /Did you mean server\.port/)
  })

  it('are those of the stage', () => {
    assert.equal(settingsFor(definition, { 'dome.key': KEY }, { stage: 'production' }).dome.pause, 3_600_000)
  })

  it('take typed values', () => {
    const opens = new Date('2026-11-25T18:30:00Z')
    const { dome } = settingsFor(definition, {
      'dome.key': KEY,
      'dome.opens': opens,
      'dome.motors': true,
      'dome.pause': 500,
    })
    assert.deepEqual([dome.opens, dome.motors, dome.pause], [opens, true, 500])
  })

  it('take nothing from files and the environment', () => {
    process.env.DOME_KEY = 'from-the-environment'
    try {
      assert.deepEqual(codesOf({}), ['missing'])
    } finally {
      delete process.env.DOME_KEY
    }
  })

  const wrong: Readonly<Record<string, readonly [given: object, codes: readonly string[], options?: object]>> = {
    'a required value that is not given': [{}, ['missing']],
    'a required value that is given as undefined': [{ 'dome.key': undefined }, ['missing']],
    'a value of another kind': [{ 'dome.key': KEY, 'server.port': 'many' }, ['not-port']],
    'a value that no rule allows': [{ 'dome.key': 'short' }, ['too-short']],
    'a typed value of another kind': [{ 'dome.key': KEY, 'dome.url': 4200 }, ['not-url']],
    null: [{ 'dome.key': KEY, 'dome.nights': null }, ['value-of-other-kind']],
    'a path that no setting has': [{ 'dome.kex': KEY }, ['test-value-unknown']],
    'a variable name': [{ DOME_KEY: KEY }, ['test-value-unknown']],
    'a stage that does not exist': [{ 'dome.key': KEY }, ['stage-unknown'], { stage: 'prod' }],
    'an unknown option': [{ 'dome.key': KEY }, ['option-unknown'], { stag: 'staging' }],
  }
  for (const [name, [given, codes, options]] of Object.entries(wrong))
    it(`refuse ${name}`, () => assert.deepEqual(codesOf(given, options), codes))

  it('suggest the path that was meant', () => {
    assert.throws(() => settingsFor(definition, { 'dome.kex': KEY } as never), /Did you mean dome\.key\?/)
  })
})

describe('the guide to testing', () => {
  const guide = readFileSync(join(REPOSITORY, 'docs/testing.md'), 'utf8')
  const files = Object.fromEntries(
    [...guide.matchAll(/```js\n\/\/ (\S+\.mjs)\n([\s\S]*?)```/g)].map(([, name, code]) => [name!, code!]),
  )
  const runners: Readonly<Record<string, readonly [packages: readonly string[], words: readonly string[]]>> = {
    'node:test': [[], ['--test', 'node.test.mjs']],
    Vitest: [['vitest'], ['node_modules/vitest/vitest.mjs', 'run', 'vitest.test.mjs']],
    Jest: [
      ['jest', '@jest/globals'],
      ['--experimental-vm-modules', 'node_modules/jest/bin/jest.js', '--watchman=false'],
    ],
  }
  for (const [name, [packages, words]] of Object.entries(runners)) {
    it(`works as printed with ${name}`, (context) => {
      const { root } = makeProject(context, files)
      linkPackages(root, packages)
      const { status, stdout, stderr } = run(process.execPath, words, root, { CI: 'true' })
      assert.equal(status, 0, stdout + stderr)
      assert.match(stdout + stderr, /1 passed|pass 1/)
    })
  }
})
