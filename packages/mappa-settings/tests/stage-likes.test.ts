import assert from 'node:assert/strict'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import { makeProject, run } from '@mappa/tests/support/project'
import fc from 'fast-check'
import { defineSettings, definitionFromJson, resolveSettings, SettingsError, setting } from 'mappa-settings'
import { exampleFile, referenceFile } from 'mappa-settings/derive'
import { inspectSettings, loadSettings, stageOf } from 'mappa-settings/node'
import { settingsFor } from 'mappa-settings/testing'

const about = 'What it is for'
const STAGES = {
  development: {},
  staging: {},
  production: {},
  preview: { like: 'staging' },
  'preview-*': { like: 'preview' },
  'preview-main': {},
} as const

describe('stages that are like others', () => {
  const definition = defineSettings(
    {
      dome: {
        url: setting.url(about, { optional: true, requiredIn: ['staging'] }),
        pause: setting.duration(about, {
          default: '15m',
          maximum: '1h',
          stages: {
            staging: { default: '10m', maximum: '30m' },
            'preview-*': { default: '1s' },
            'preview-7': { default: '7s' },
          },
        }),
      },
    },
    { stages: STAGES },
  )
  const pauses: Readonly<Record<string, number>> = {
    development: 900_000,
    staging: 600_000,
    preview: 600_000,
    'preview-6': 1000,
    'preview-7': 7000,
    // By its own name, it is none of those that the pattern stands for.
    'preview-main': 900_000,
  }
  for (const [stage, pause] of Object.entries(pauses))
    it(`have rules and defaults of the nearest: ${stage}`, () => {
      const isLike = stage !== 'development' && stage !== 'preview-main'
      const given = isLike ? { 'dome.url': 'https://a.example/' } : {}
      assert.equal(settingsFor(definition, given, { stage }).dome.pause, pause)
      const codes = (values: object) => {
        try {
          settingsFor(definition, values, { stage })
          return []
        } catch (error) {
          return (error as SettingsError).problems.map(({ code }) => code)
        }
      }
      assert.deepEqual(codes({}), isLike ? ['missing'] : [])
      assert.deepEqual(codes({ ...given, 'dome.pause': '45m' }), isLike ? ['above-maximum'] : [])
    })

  it('have the rules between settings of those that they are like', () => {
    const ordered = defineSettings(
      { from: setting.integer(about, { default: 9 }), to: setting.integer(about, { default: 1 }) },
      {
        stages: STAGES,
        rules: [
          { ascending: ['from', 'to'], stages: ['staging'] },
          { sum: ['from', 'to'], maximum: 9, stages: ['preview-*'] },
        ],
      },
    )
    for (const stage of Object.keys(pauses)) {
      const codes = resolveSettings(ordered, { stage, layers: [] }).problems.map(({ code }) => code)
      const expected = [
        ...(['staging', 'preview', 'preview-6', 'preview-7'].includes(stage) ? ['not-ascending'] : []),
        ...(['preview-6', 'preview-7'].includes(stage) ? ['sum-out-of-range'] : []),
      ]
      assert.deepEqual(codes, expected, stage)
    }
  })

  it('have layer files of their ancestors below their own, in every order of likes', (context) => {
    const names = ['a', 'b', 'c', 'd']
    const project = makeProject(context, { 'package.json': '{}' })
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.nat(3), { nil: null }), { minLength: 4, maxLength: 4 }),
        fc.subarray(names.flatMap((name) => [`.env.${name}`, `.env.${name}.local`]).concat('.env', '.env.local')),
        fc.constantFrom(...names),
        (likes, files, stage) => {
          // A stage is like one before it, so that there are no circles.
          const parents = likes.map((like, at) => (like !== null && like < at ? names[like]! : null))
          const stages = Object.fromEntries(
            names.map((name, at) => [name, parents[at] === null ? {} : { like: parents[at] }]),
          )
          const lineage: string[] = []
          for (let next: string | null = stage; next !== null; next = parents[names.indexOf(next)]!)
            lineage.unshift(next)
          const order = ['.env', '.env.local', ...lineage.flatMap((each) => [`.env.${each}`, `.env.${each}.local`])]
          for (const file of files) project.write(file, `A=${file}\n`)
          try {
            const own = defineSettings({ a: setting.string(about, { optional: true }) }, { stages: stages as never })
            const { settings, layers } = inspectSettings(own, { stage, root: project.root, environment: {} })
            assert.equal(
              settings[0]!.text,
              order.findLast((file) => files.includes(file)),
            )
            assert.deepEqual(
              layers.filter(({ kind }) => kind === 'file').map(({ id }) => id),
              order,
            )
          } finally {
            for (const file of files) rmSync(join(project.root, file))
          }
        },
      ),
      { numRuns: 200, seed: 36 },
    )
  })

  it('exist by a pattern for whoever names them, and not for a name that is nearly one', (context) => {
    const { root } = makeProject(context, { 'package.json': '{}', '.env.staging': 'DOME_URL=https://a.example/\n' })
    const load = (MAPPA_STAGE: string) => loadSettings(definition, { root, environment: { MAPPA_STAGE } })
    assert.equal(stageOf(load('preview-x')), 'preview-x')
    assert.throws(() => load('prevew-x'), /stage-unknown[\s\S]*preview-\*/)
    assert.throws(() => load('preview-'), /stage-unknown/)
    assert.throws(() => load('preview-X'), /stage-unknown/)
  })

  it('stand in derived files once, where they have rules of their own', () => {
    const reference = referenceFile(definition)
    assert.match(reference, /`preview` is like `staging`, and `preview-\*` is like `preview`/)
    assert.match(reference, /\| rules +\| staging +\| preview-\* +\|\n/)
    assert.deepEqual(exampleFile(definition).match(/# \(in .*\)/g), [
      '# (in staging: required)',
      '# (in staging: default 10m; at most 30m)',
      '# (in preview-*: default 1s; at most 30m)',
    ])
  })

  const wrong: readonly (readonly [what: string, stages: unknown, code: string])[] = [
    ['like one that does not exist', { a: {}, b: { like: 'c' } }, 'stage-like-unknown'],
    ['like a pattern', { a: {}, 'b-*': {}, c: { like: 'b-*' } }, 'stage-like-unknown'],
    ['like itself', { a: { like: 'a' } }, 'stage-like-circular'],
    ['like each other', { a: { like: 'b' }, b: { like: 'a' } }, 'stage-like-circular'],
    ['with an unknown option', { a: { lik: 'b' } }, 'stage-options-wrong'],
    ['with options that are none', { a: null }, 'stage-options-wrong'],
    ['with two stars', { a: {}, 'b-*-*': {} }, 'stage-name-wrong'],
    ['that stand for everything', { a: {}, '*': {} }, 'stage-name-wrong'],
    ['that are patterns alone', { 'a-*': {} }, 'stages-wrong'],
    ['that are none', {}, 'stages-wrong'],
    ['as patterns in a list', ['a', 'b-*'], 'stage-name-wrong'],
  ]
  for (const [what, stages, code] of wrong)
    it(`are refused: stages ${what}`, () => {
      try {
        definitionFromJson({ stages, settings: { a: { kind: 'string', description: about } } })
        assert.fail('nothing was refused')
      } catch (error) {
        assert.ok(error instanceof SettingsError, inspect(error))
        assert.ok(
          error.problems.some((each) => each.code === code),
          error.message,
        )
      }
    })

  it('are told apart by commands, which say what is inherited and compare no value with itself', (context) => {
    const project = makeProject(context, {
      'settings.definition.json': JSON.stringify({
        stages: STAGES,
        settings: {
          dome: {
            key: { kind: 'string', description: about, secret: true, optional: true, distinctAcrossStages: true },
          },
        },
      }),
      '.gitignore': '.env.local\n.env.*.local\n',
      '.env.staging.local': 'DOME_KEY=drill-canary-5Wq9\n',
      '.env.preview-7.local': 'DOME_KEY=drill-canary-7Zt2\n',
    })
    const check = project.mappa(['check', '--all'])
    assert.equal(check.status, 0, check.stdout + check.stderr)
    assert.match(
      check.stdout,
      /Settings for preview: OK.*\n.*Settings for preview-main: OK.*\n.*Settings for preview-7: OK/,
    )
    project.write('.env.qa', 'DOME_KEY=x\n')
    project.write('.env.prod', 'DOME_KEY=x\n')
    const foreign = project.mappa(['check', '--all'])
    assert.equal(foreign.status, 0)
    assert.deepEqual(
      foreign.stdout.match(/^.*file-of-no-stage$/gm),
      ['  notice  .env.qa  file-of-no-stage'],
      foreign.stdout,
    )
    const compared = JSON.parse(project.mappa(['compare', 'staging', 'preview', 'preview-8', '--json']).stdout) as {
      readonly settings: readonly { readonly values: readonly { readonly state: string }[] }[]
    }
    assert.deepEqual(
      compared.settings[0]!.values.map(({ state }) => state),
      ['set', 'inherited', 'inherited'],
    )
    project.write('.env.preview-9.local', 'DOME_KEY=drill-canary-5Wq9\n')
    const shared = project.mappa(['check', '--all'])
    assert.equal(shared.status, 1)
    assert.match(shared.stdout + shared.stderr, /value-shared[\s\S]*in staging, preview-9,/)
    // A file of a stage that only a pattern stands for is searched for secrets as all others are.
    project.git('init')
    project.write('src/dome.ts', "const key = 'drill-canary-7Zt2'\n")
    const guard = project.mappa(['guard', '--', 'src/dome.ts'])
    assert.equal(guard.status, 1, guard.stdout + guard.stderr)
  })
})

describe('a stage that must be named', () => {
  const files = {
    'package.json': '{ "type": "module" }',
    'settings.definition.json': JSON.stringify({
      requireStage: true,
      settings: { a: { kind: 'string', description: about, default: 'x' } },
    }),
  }
  it('is demanded by the definition, of programs and of mappa run', (context) => {
    const project = makeProject(context, files)
    const definition = defineSettings({ a: setting.string(about, { default: 'x' }) }, { requireStage: true })
    const load = (environment: Record<string, string>, options = {}) =>
      loadSettings(definition, { root: project.root, environment, ...options })
    assert.throws(() => load({}), /stage-required/)
    assert.throws(() => load({ NODE_ENV: 'test' }), /stage-required/)
    assert.equal(load({ NODE_ENV: 'staging' }).a, 'x')
    assert.equal(load({}, { stage: 'staging' }).a, 'x')
    assert.equal(load({}, { requireStage: false, onNotices: () => {} }).a, 'x')
    const unnamed = project.mappa(['run', '--', 'true'])
    assert.deepEqual([unnamed.status, /stage-required/.test(unnamed.stderr)], [78, true])
    assert.equal(project.mappa(['run', '--stage', 'staging', '--', 'true']).status, 0)
    assert.equal(project.mappa(['check']).status, 0)
  })

  it('is told once where it is not demanded and nothing names one', (context) => {
    const project = makeProject(context, {
      ...files,
      'main.js': `import { defineSettings, setting } from 'mappa-settings'
import { loadSettings } from 'mappa-settings/node'
const definition = defineSettings({ a: setting.string('What it is for', { default: 'x' }) })
loadSettings(definition)
loadSettings(definition)
`,
    })
    const { status, stderr } = run(process.execPath, ['main.js'], project.root)
    assert.equal(status, 0, stderr)
    assert.equal(stderr.match(/stage-not-named/g)?.length, 1, stderr)
    const named = run(process.execPath, ['main.js'], project.root, { NODE_ENV: 'production' })
    assert.deepEqual([named.status, named.stderr], [0, ''])
  })
})
