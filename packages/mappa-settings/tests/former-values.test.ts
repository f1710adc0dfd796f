import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import { makeProject } from '@mappa/tests/support/project'
import { defineSettings, resolveSettings, Secret, setting } from 'mappa-settings'
import { environmentSchema, exampleFile, typesFile, valuesSchema } from 'mappa-settings/derive'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'
import { inspectSettings, loadSettings } from 'mappa-settings/node'
import { settingsFor } from 'mappa-settings/testing'

const about = 'What it is for'
const NOW = 'drill-canary-now-61Vw'
const FORMER = 'drill-canary-former-7Qe'
const definition = defineSettings({
  gate: {
    key: setting.string(about, { secret: true, acceptFormerFor: 'P7D', minLength: 8 }),
    port: setting.port(about, { default: 4100 }),
  },
})
const JSON_DEFINITION = JSON.stringify({
  settings: {
    gate: { key: { kind: 'string', description: about, secret: true, acceptFormerFor: 'P7D', minLength: 8 } },
  },
})
const from = (environment: Record<string, string>) => ({
  root: import.meta.dirname,
  environment: { MAPPA_STAGE: 'staging', ...environment },
})

describe('a secret with a former value', () => {
  it('gives both, the present one first, and shows neither', () => {
    const settings = loadSettings(definition, from({ GATE_KEY: NOW, GATE_KEY_FORMER: FORMER }))
    const all: readonly string[] = settings.gate.key.revealAll()
    assert.deepEqual(all, [NOW, FORMER])
    assert.deepEqual(Object.keys(settings.gate), ['key', 'port'])
    const shown = inspect([settings], { depth: 9, showHidden: true }) + JSON.stringify([settings])
    assert.ok(!shown.includes('canary'))
    assert.deepEqual(loadSettings(definition, from({ GATE_KEY: NOW })).gate.key.revealAll().length, 1)
    assert.deepEqual(new Secret(1).revealAll(), [1])
    const made = settingsFor(definition, { 'gate.key': NOW, 'gate.key.former': FORMER })
    assert.deepEqual(made.gate.key.revealAll(), [NOW, FORMER])
  })

  it('needs the present one, and holds the former one to the same rules', () => {
    const listCodes = (environment: Record<string, string>) =>
      inspectSettings(definition, from(environment)).problems.map(({ code, name }) => [code, name])
    assert.deepEqual(listCodes({ GATE_KEY_FORMER: FORMER }), [['missing', 'GATE_KEY']])
    assert.deepEqual(listCodes({ GATE_KEY: NOW, GATE_KEY_FORMER: 'short' }), [['too-short', 'GATE_KEY_FORMER']])
    assert.deepEqual(listCodes({ GATE_KEY: NOW, GATE_KEY_FORMER: NOW }), [['former-is-present', 'GATE_KEY_FORMER']])
    assert.throws(() => loadSettings(definition, { ...from({ GATE_KEY: NOW }), flags: ['--gate-key-former', 'x'] }))
  })

  const DAYS: readonly (readonly [what: string, comment: string, today: string, code: string | undefined])[] = [
    ['on its first day', '# set 2026-11-23', '2026-11-23', undefined],
    ['on its last day', '# set 2026-11-23', '2026-11-30', undefined],
    ['a day later', '# set 2026-11-23', '2026-12-01', 'former-overdue'],
    ['without a day', '# no day', '2026-11-23', 'former-undated'],
  ]
  for (const [what, comment, today, code] of DAYS) {
    it(`is told of ${what}: ${code ?? 'nothing'}`, () => {
      const text = `GATE_KEY=${NOW}\n${comment}\nGATE_KEY_FORMER=${FORMER}\n`
      const layers = [documentLayer('.env.staging.local', EnvDocument.from(text))]
      const { problems, values } = resolveSettings(definition, { stage: 'staging', layers, today })
      assert.deepEqual([problems.map((each) => each.code), values !== null], [code === undefined ? [] : [code], true])
    })
  }

  it('is a variable for what writes and checks variables, and has no place in the tree of values', () => {
    assert.match(exampleFile(definition), /#GATE_KEY_FORMER=/)
    const types = typesFile(definition)
    assert.match(types, /GATE_KEY_FORMER\?: string/)
    assert.doesNotMatch(types, /former\??:/)
    assert.ok('GATE_KEY_FORMER' in (environmentSchema(definition).properties as object))
    assert.doesNotMatch(JSON.stringify(valuesSchema(definition)), /former"/)
  })

  it('is kept by mappa set, which loses none that is still accepted', (context) => {
    const project = makeProject(context, { 'settings.definition.json': JSON_DEFINITION })
    project.git('init', '-q')
    const set = (value: string, ...words: string[]) =>
      project.mappa(['set', 'GATE_KEY', '--stage', 'staging', ...words], {}, value)
    const read = () => {
      const { stdout } = project.mappa(['show', '--stage', 'staging', '--reveal', '--json'])
      return JSON.parse(stdout).settings.map((each: { value: string | null }) => each.value)
    }
    assert.equal(set('first-drill-key').status, 0)
    assert.deepEqual(read(), ['first-drill-key', null])
    assert.match(set('second-drill-key').stdout, /The value before is GATE_KEY_FORMER now, accepted until \d{4}-/)
    assert.deepEqual(read(), ['second-drill-key', 'first-drill-key'])
    const refused = set('third-drill-key')
    assert.deepEqual([refused.status, /former-still-accepted/.test(refused.stderr)], [1, true])
    assert.deepEqual(read(), ['second-drill-key', 'first-drill-key'])
    assert.equal(set('second-drill-key').status, 0)
    assert.deepEqual(read(), ['second-drill-key', 'first-drill-key'])
    // Back to the former one: both are still accepted.
    assert.equal(set('first-drill-key').status, 0)
    assert.deepEqual(read(), ['first-drill-key', 'second-drill-key'])
    assert.equal(set('leaked-drill-key', '--forget-former').status, 0)
    assert.deepEqual(read(), ['leaked-drill-key', 'second-drill-key'])
    project.write(
      '.env.staging.local',
      'GATE_KEY=second-drill-key\n# set 2025-01-31\nGATE_KEY_FORMER=first-drill-key\n',
    )
    assert.equal(set('third-drill-key').status, 0)
    assert.deepEqual(read(), ['third-drill-key', 'second-drill-key'])
    const { stdout } = project.mappa(['run', '--stage', 'staging', '--mask-output', '--', 'env'])
    assert.match(stdout, /GATE_KEY_FORMER=\(secret/)
  })

  it('is for secrets alone', () => {
    assert.throws(
      () => defineSettings({ port: setting.port(about, { acceptFormerFor: 'P7D' }) }),
      /acceptFormerFor, which is for keys/,
    )
    assert.throws(
      () =>
        defineSettings({
          key: setting.string(about, { secret: true, acceptFormerFor: 'P7D' }),
          other: setting.string(about, { name: 'KEY_FORMER' }),
        }),
      /both have the variable name KEY_FORMER/,
    )
  })

  it('keeps what the file that is written had, not what another one above it has', (context) => {
    const project = makeProject(context, {
      'settings.definition.json': JSON_DEFINITION,
      '.gitignore': '.env*.local\n',
      '.env.local': 'GATE_KEY=drill-of-all-stages\n',
      '.env.development.local': 'GATE_KEY=drill-of-one-stage\n',
    })
    const read = (file: string) => readFileSync(join(project.root, file), 'utf8')
    const { status, stderr } = project.mappa(['set', 'GATE_KEY', '--local'], {}, 'drill-new-of-all')
    assert.equal(status, 0, stderr)
    assert.match(read('.env.local'), /^GATE_KEY=drill-new-of-all\n.*\nGATE_KEY_FORMER=drill-of-all-stages\n$/)
    assert.equal(read('.env.development.local'), 'GATE_KEY=drill-of-one-stage\n')
  })
})
