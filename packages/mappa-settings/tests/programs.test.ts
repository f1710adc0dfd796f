import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import { makeProject, run } from '@mappa/tests/support/project'
import fc from 'fast-check'
import { defineSettings, definitionFromJson, SettingsError, setting } from 'mappa-settings'
import { definitionSchema, referenceFile } from 'mappa-settings/derive'
import { inspectSettings, loadSettings, watchSettings } from 'mappa-settings/node'
import { settingsFor } from 'mappa-settings/testing'

const about = 'What it is for'
const KEY = 'drill-canary-5Wq81Zr0'
const definition = defineSettings(
  {
    dome: {
      port: setting.port(about, { for: ['dome-api'] }),
      key: setting.string(about, { secret: true, for: ['dome-api', 'night-worker'] }),
    },
    night: {
      mail: { key: setting.string(about, { secret: true, for: ['night-worker'] }) },
      places: setting.integer(about, { default: 24 }),
      last: setting.integer(about, { optional: true, for: ['night-worker'] }),
    },
  },
  {
    programs: ['dome-api', 'night-worker', 'compose'],
    rules: [{ ascending: ['night.places', 'night.last'] }],
  },
)
/** Options for a program without files, or with those of a project. */
const from = (environment: Record<string, string>, root = import.meta.dirname) => ({
  root,
  environment: { MAPPA_STAGE: 'staging', ...environment },
})

describe('the settings of one program', () => {
  it('are asked for, returned and typed; those of others are not', () => {
    const settings = loadSettings(definition, {
      ...from({ NIGHT_MAIL_KEY: 'k', DOME_KEY: 'd' }),
      program: 'night-worker',
    })
    assert.deepEqual(Object.keys(settings), ['dome', 'night'])
    assert.deepEqual(Object.keys(settings.dome), ['key'])
    assert.equal(settings.night.mail.key.reveal(), 'k')
    // @ts-expect-error the worker has no port
    assert.equal(settings.dome.port, undefined)
    const host = loadSettings(definition, { ...from({}), program: 'compose' })
    assert.deepEqual({ ...host.night }, { places: 24 })
    // @ts-expect-error no setting of the group is for it
    assert.equal(host.dome, undefined)
    assert.throws(
      // @ts-expect-error there is no such program
      () => loadSettings(definition, { ...from({}), program: 'comopse' }),
      /no program "comopse" \(named by the option program\).*dome-api, night-worker, compose[\s\S]*Did you mean compose\?/,
    )
    const whole = loadSettings(definition, from({ DOME_PORT: '4100', DOME_KEY: 'd', NIGHT_MAIL_KEY: 'k' }))
    assert.equal(whole.dome.port, 4100)
  })

  it('are the same for every function that takes values', async () => {
    const environment = { DOME_PORT: '4100', DOME_KEY: 'd' }
    const own = inspectSettings(definition, { ...from(environment), program: 'dome-api' })
    assert.deepEqual(
      own.settings.map(({ declaration }) => declaration.name),
      ['DOME_PORT', 'DOME_KEY', 'NIGHT_PLACES'],
    )
    assert.equal(own.values?.dome.port, 4100)
    const watched = watchSettings(definition, () => {}, { ...from(environment), program: 'dome-api' })
    watched.stop()
    assert.equal(watched.current.dome.port, 4100)
    const made = settingsFor(definition, { 'dome.port': 1, 'dome.key': 'x' }, { program: 'dome-api' })
    assert.equal(made.dome.port, 1)
    // @ts-expect-error the server sends no mails
    assert.equal(made.night.mail, undefined)
  })

  it('hold the rules that are about them alone, and tell which programs need what is missing', () => {
    const environment = { DOME_PORT: '1', DOME_KEY: 'd', NIGHT_LAST: '2', NIGHT_MAIL_KEY: 'k' }
    const listCodes = (program?: 'dome-api' | 'night-worker') =>
      inspectSettings(definition, { ...from(environment), ...(program === undefined ? {} : { program }) }).problems.map(
        ({ code }) => code,
      )
    assert.deepEqual(
      [listCodes(), listCodes('night-worker'), listCodes('dome-api')],
      [['not-ascending'], ['not-ascending'], []],
    )
    const [missing] = inspectSettings(definition, from({ DOME_PORT: '1', NIGHT_MAIL_KEY: 'k' })).problems
    assert.match(missing!.hint, /It is for dome-api and night-worker only: with --program/)
    assert.match(referenceFile(definition), /required; for dome-api and night-worker/)
  })

  it('can refer to what others need, which stays secret and is no misspelling', (context) => {
    const { root } = makeProject(context, {
      'package.json': '{}',
      '.env': `NIGHT_MAIL_KEY=${KEY}\nNIGHT_PLACES=\${NIGHT_MAIL_KEY}\n`,
    })
    const found = inspectSettings(definition, { ...from({}, root), program: 'compose' })
    assert.deepEqual(
      found.problems.map(({ code }) => code),
      ['holds-secret', 'not-integer'],
    )
    assert.ok(!inspect([found.problems, found.problems[0]?.message], { depth: 9 }).includes(KEY))
  })

  it('are those of the command with --program, and of no other', (context) => {
    const { mappa, root } = makeProject(context, {
      'package.json': '{}',
      'settings.definition.json': JSON.stringify({
        programs: ['dome-api', 'compose'],
        settings: {
          dome: { key: { kind: 'string', description: about, secret: true, for: ['dome-api'] } },
          night: { places: { kind: 'integer', description: about, default: 24 } },
        },
      }),
      '.env.local': `DOME_KEY=${KEY}\n`,
      'help.mjs': `import { readFileSync } from 'node:fs'
import { definitionFromJson } from 'mappa-settings'
import { loadSettings } from 'mappa-settings/node'
const { settings: { dome } } = JSON.parse(readFileSync('settings.definition.json', 'utf8'))
const definition = definitionFromJson({ programs: ['dome-api', 'compose'], settings: { dome } })
loadSettings(definition, { program: 'compose', flags: ['--help'] })`,
    })
    // A program may have no settings at all.
    assert.match(
      run(process.execPath, ['help.mjs'], root).stdout,
      /^Usage: help\.mjs \[flags\]\s+-h, --help +Print this\./,
    )
    const call = (...words: string[]) => mappa(words, { MAPPA_STAGE: 'development', PATH: process.env.PATH ?? '' })
    const json = JSON.parse(call('check', '--program', 'compose', '--json').stdout)
    assert.deepEqual([json.program, json.settings.length], ['compose', 1])
    assert.match(call('check', '--program', 'dome-api').stdout, /^Settings of dome-api for development: OK, 2 settings/)
    const printed = call('run', '--program', 'compose', '--', 'env').stdout
    assert.match(printed, /NIGHT_PLACES=24/)
    assert.doesNotMatch(printed, /DOME_KEY/)
    assert.doesNotMatch(call('export', '--as', 'sh', '--with-secrets', '--program', 'compose').stdout, /DOME_KEY/)
    const other = call('show', 'DOME_KEY', '--program', 'compose')
    assert.deepEqual([other.status, /it is for dome-api/.test(other.stderr)], [1, true])
    assert.match(call('compare', '.env.local', '.env.local', '--program', 'compose').stderr, /program-with-files/)
    assert.match(call('completion', 'words', '--', 'check', '--program', '').stdout, /compose/)
  })

  it('leave out exactly what others need, for all definitions', () => {
    const PROGRAMS = ['a', 'b', 'c']
    const owners = fc.option(fc.subarray(PROGRAMS, { minLength: 1 }), { nil: undefined })
    fc.assert(
      fc.property(fc.array(owners, { minLength: 1, maxLength: 12 }), fc.constantFrom(...PROGRAMS), (all, program) => {
        const tree = Object.fromEntries(
          all.map((own, at) => [
            `s${at}`,
            { kind: 'integer', description: about, ...(own === undefined ? {} : { for: own }) },
          ]),
        )
        const own = definitionFromJson({ programs: PROGRAMS, settings: tree })
        const needed = all.flatMap((each, at) => (each === undefined || each.includes(program) ? [`s${at}`] : []))
        const { settings, problems, values } = inspectSettings(own, {
          ...from(Object.fromEntries(needed.map((path) => [path.toUpperCase(), '1']))),
          program,
        })
        assert.deepEqual(
          settings.map(({ declaration }) => declaration.path),
          needed,
        )
        assert.deepEqual(problems, [])
        assert.deepEqual(Object.keys(values as object), needed)
      }),
      { numRuns: 60 },
    )
  })
})

describe('a definition that is wrong about programs', () => {
  const WRONG: readonly (readonly [what: string, tree: object, programs: unknown, says: RegExp])[] = [
    ['no list', {}, 'web', /option programs must be a list/],
    ['a name twice', {}, ['web', 'web'], /option programs must be a list/],
    ['no names', {}, [''], /option programs must be a list/],
    ['an unknown one', { for: ['wbe'] }, ['web'], /s is for wbe, which is none[\s\S]*Did you mean web\?/],
    ['for nobody', { for: [] }, ['web'], /The option for of s must be a list of programs/],
    [
      'a condition of another program',
      { optional: true, requiredIf: { other: 1 } },
      ['web', 'worker'],
      /Whether s is needed depends on other \(requiredIf\), which the program web does not have/,
    ],
  ]
  for (const [what, options, programs, says] of WRONG) {
    it(`says so: ${what}`, () => {
      const own = { kind: 'integer', description: about, ...options }
      const other = {
        kind: 'integer',
        description: about,
        ...(Array.isArray(programs) ? { for: [programs.at(-1)] } : {}),
      }
      assert.throws(
        () => definitionFromJson({ programs, settings: { s: own, other } }),
        (error) => error instanceof SettingsError && says.test(String(error.message)),
      )
    })
  }

  it('is told by its schema, too', () => {
    assert.match(JSON.stringify(definitionSchema()), /"programs":\{/)
  })
})
