import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { makeProject } from '@mappa/tests/support/project'
import { defineSettings, environmentLayer, type Problem, resolveSettings, SettingsError, setting } from 'mappa-settings'
import { publicReplacements } from 'mappa-settings/bundler'
import { inspectSettings, loadSettings, stageOf, watchSettings } from 'mappa-settings/node'

const tree = { server: { port: setting.port('Port the dome service listens on', { default: 4100 }) } }
const definition = defineSettings(tree)
const short = defineSettings(tree, { stages: ['dev', 'live'] })

/** What a call throws: the codes of its problems, and their hints. */
function refusal(call: () => unknown): { codes: string[]; hints: string } {
  try {
    call()
  } catch (error) {
    assert.ok(error instanceof SettingsError, String(error))
    return { codes: error.problems.map((each) => each.code), hints: error.problems.map((each) => each.hint).join() }
  }
  return { codes: [], hints: '' }
}

/** `NODE_ENV`, the definition, and the stage that is meant: an error with that suggestion, or `null` for a notice. */
const NODE_ENVS: readonly (readonly [string, typeof definition, string | null])[] = [
  ['prod', definition, 'production'],
  ['Production', definition, 'production'],
  ['production ', definition, 'production'],
  ['prodution', definition, 'production'],
  ['dev', definition, 'development'],
  ['stage', definition, 'staging'],
  ['production', short, 'live'],
  ['development', short, 'dev'],
  ['test', definition, null],
  ['night', definition, null],
]

describe('a stage named by NODE_ENV', () => {
  for (const [name, of, meant] of NODE_ENVS) {
    it(`${JSON.stringify(name)} of ${of.stages.join(', ')}: ${meant === null ? 'a notice' : `an error that suggests ${meant}`}`, (context) => {
      const { root } = makeProject(context, {})
      const options = { root, environment: { NODE_ENV: name } }
      const { codes, hints } = refusal(() => inspectSettings(of, options))
      if (meant !== null) {
        assert.deepEqual(codes, ['stage-unknown'])
        assert.ok(hints.includes(`Did you mean ${meant}? Set MAPPA_STAGE=${meant}`), hints)
        assert.equal(stageOf(loadSettings(of, { root, environment: { NODE_ENV: name, MAPPA_STAGE: meant } })), meant)
        return
      }
      assert.deepEqual(
        inspectSettings(of, options).problems.map((each) => each.code),
        ['stage-assumed'],
      )
      const told: Problem[] = []
      const onNotices = (found: readonly Problem[]) => told.push(...found)
      for (let call = 0; call < 2; call++) loadSettings(of, { ...options, onNotices })
      assert.equal(told.length, 1, 'told once for a process')
    })
  }
})

describe('names that do not exist', () => {
  const wrong = { stgae: 'staging' } as object
  const calls: Readonly<Record<string, () => unknown>> = {
    resolveSettings: () => resolveSettings(definition, wrong),
    loadSettings: () => loadSettings(definition, wrong),
    inspectSettings: () => inspectSettings(definition, wrong),
    watchSettings: () => watchSettings(definition, () => {}, wrong).stop(),
    publicReplacements: () => publicReplacements(definition, wrong),
  }
  for (const [name, call] of Object.entries(calls)) {
    it(`an option of ${name}`, () => {
      const { codes, hints } = refusal(call)
      assert.deepEqual([codes, hints], [['option-unknown'], 'Did you mean stage?'])
    })
  }
  it('a stage of resolveSettings', () => {
    const { codes, hints } = refusal(() => resolveSettings(definition, { stage: 'prodution' }))
    assert.deepEqual(codes, ['stage-unknown'])
    assert.match(hints, /Did you mean production/)
  })
  it('options that are no object', () => {
    assert.deepEqual(refusal(() => resolveSettings(definition, null as never)).codes, ['options-not-object'])
    assert.deepEqual(refusal(() => loadSettings(definition, null as never)).codes, ['options-not-object'])
  })
})

describe('a required name that the environment nearly has', () => {
  const needs = defineSettings({ payment: { secret: setting.string('Key of the ticket desk', { secret: true }) } })
  const prefixed = defineSettings(
    { dome: { key: setting.string('Key of the dome', { optional: true }) } },
    { prefix: 'FERN_' },
  )
  const cases: readonly (readonly [string, typeof needs | typeof prefixed, Record<string, string>, RegExp])[] = [
    ['another case', needs, { Payment_Secret: 'x' }, /Rename Payment_Secret in the process environment/],
    ['a longer name', needs, { PAYMENT_SECRET_KEY: 'x' }, /Rename PAYMENT_SECRET_KEY in the process environment/],
    ['a prefix before it', needs, { FERN_PAYMENT_SECRET: 'x' }, /Rename FERN_PAYMENT_SECRET in/],
    ['nothing near', needs, { PATH: '/bin', HOME: '/' }, /^Add PAYMENT_SECRET/],
    ['a slip behind the prefix', prefixed, { FERN_DOME_KYE: 'x' }, /Rename FERN_DOME_KYE to FERN_DOME_KEY/],
  ]
  for (const [what, of, environment, hint] of cases) {
    it(what, () => {
      const { problems } = resolveSettings(of as typeof needs, { layers: [environmentLayer(environment)] })
      assert.match(problems[0]!.hint, hint)
    })
  }
})

describe('the root', () => {
  for (const [what, root, told] of [
    ['a URL of no file', 'https://dome.fernhollow.example/', 'root-no-directory'],
    ['no path at all', 5, 'root-no-directory'],
  ] as const) {
    it(`is refused: ${what}`, () => {
      assert.throws(
        () => inspectSettings(defineSettings({}), { root: root as string, environment: {} }),
        (error) => error instanceof SettingsError && error.problems[0]!.code === told,
      )
    })
  }
})
