import assert from 'node:assert/strict'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { makeProject, REPOSITORY, run } from '@mappa/tests/support/project'
import { typeErrors } from '@mappa/tests/support/type-check'
import {
  defineSettings,
  environmentLayer,
  type Problem,
  resolveSettings,
  SettingsError,
  setting,
  type Values,
} from 'mappa-settings'
import { environmentSchema, referenceFile, typesFile, valuesSchema } from 'mappa-settings/derive'
import { loadSettings, watchSettings } from 'mappa-settings/node'

const about = 'What it is for'
const codesOf = (problems: readonly Problem[]) => problems.map(({ code }) => code)

/** What is wrong with an environment in a stage. */
function check(definition: ReturnType<typeof defineSettings>, stage: string, environment: Record<string, string>) {
  return resolveSettings(definition, { stage, layers: [environmentLayer(environment)] })
}

describe('rules', () => {
  const definition = defineSettings({
    server: {
      port: setting.port('Port', { default: 4100, stages: { production: { default: 4120, minimum: 4000 } } }),
      logLevel: setting.choice('Log', { enum: ['quiet', 'chatty'], stages: { development: { default: 'chatty' } } }),
    },
    dome: {
      motors: setting.boolean('Motors', { default: false }),
      key: setting.string('Key', {
        secret: true,
        stages: { production: { pattern: /^open-/ } },
        distinctAcrossStages: true,
      }),
      guard: setting.string('Who watches', { optional: true, requiredIf: { 'dome.motors': true } }),
      drill: setting.string('Drill', {
        optional: true,
        forbiddenIf: { 'dome.motors': true, 'server.logLevel': ['quiet', 'chatty'] },
      }),
      alarm: setting.email('Alarm', { optional: true, requiredIn: ['production'] }),
    },
  })

  it('differ from stage to stage', () => {
    const fine = check(definition, 'development', { DOME_KEY: 'drill-1' })
    assert.deepEqual(
      [codesOf(fine.problems), fine.settings.slice(0, 2).map(({ value }) => value)],
      [[], [4100, 'chatty']],
    )
    const production = { DOME_KEY: 'drill-1', SERVER_PORT: '80' }
    assert.deepEqual(codesOf(check(definition, 'production', production).problems), [
      'below-minimum',
      'missing',
      'pattern-differs',
      'missing',
    ])
    const right = { DOME_KEY: 'open-1', SERVER_LOG_LEVEL: 'quiet', DOME_ALARM: 'desk@fernhollow.example' }
    const values = check(definition, 'production', right).values as Values<typeof definition>
    assert.equal(values.server.port, 4120)
  })

  it('depend on other settings', () => {
    const moving = { DOME_KEY: 'drill-1', DOME_MOTORS: 'yes' }
    const { problems } = check(definition, 'development', { ...moving, DOME_DRILL: 'monday' })
    assert.deepEqual(
      problems.map(({ message }) => message),
      [
        'DOME_GUARD is not set, and is required because dome.motors is true. Who watches.',
        'DOME_DRILL is set, but must not be set while dome.motors is true and server.logLevel is "quiet" or "chatty".',
      ],
    )
    assert.deepEqual(codesOf(check(definition, 'development', { ...moving, DOME_GUARD: 'Fern' }).problems), [])
    assert.deepEqual(codesOf(check(definition, 'development', { DOME_KEY: 'x', DOME_DRILL: 'monday' }).problems), [])
  })

  it('say what is wrong with themselves', () => {
    const any = setting as unknown as Record<string, (...words: unknown[]) => never>
    const other = setting.boolean(about, { default: true })
    const cases: readonly [object, ...string[]][] = [
      [{ a: any.string!(about, { stages: { prod: { minLength: 1 } } }) }, 'rule-stage-unknown'],
      [{ a: any.string!(about, { stages: { production: { minLenght: 1 } } }) }, 'setting-option-unknown'],
      [{ a: any.string!(about, { stages: { production: { secret: true } } }) }, 'setting-option-unknown'],
      [{ a: any.string!(about, { stages: { production: { optional: true } } }) }, 'setting-option-wrong'],
      [{ a: any.port!(about, { stages: { production: { default: 0 } } }) }, 'setting-default-wrong'],
      [{ a: any.string!(about, { secret: true, stages: { staging: { default: 'x' } } }) }, 'setting-secret-default'],
      [{ a: any.string!(about, { requiredIn: ['production'] }) }, 'rule-needs-optional'],
      [{ a: any.string!(about, { optional: true, requiredIn: ['nowhere'] }) }, 'rule-stage-unknown'],
      [{ a: any.string!(about, { optional: true, requiredIf: { 'b.c': true } }), b: other }, 'rule-setting-unknown'],
      [{ a: any.string!(about, { optional: true, requiredIf: { b: 'yes' } }), b: other }, 'rule-value-wrong'],
      [
        {
          a: any.string!(about, { optional: true, requiredIf: { b: 'x' } }),
          b: setting.string(about, { secret: true }),
        },
        'rule-on-secret',
      ],
      [{ a: any.string!(about, { formerly: ['B'] }), b: other }, 'setting-name-taken'],
      [{ a: any.string!(about, { formerly: 'B' }) }, 'setting-option-wrong'],
      [{ a: any.string!(about, { check: 'x' }) }, 'setting-option-wrong'],
      [{ a: any.custom!(about) }, 'setting-option-missing'],
      [{ a: any.list!(about, { items: setting.list(about) }) }, 'setting-option-wrong'],
    ]
    for (const [tree, ...codes] of cases) {
      assert.throws(
        () => defineSettings(tree as never),
        (error) =>
          error instanceof SettingsError &&
          String(codesOf(error.problems)) === String(codes) &&
          !/\{\w+\}/.test(error.message),
        codes.join(),
      )
    }
  })

  it('let no two stages share a value that is to be distinct', (context) => {
    const project = makeProject(context, {
      'settings.definition.ts': `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({ dome: { key: setting.string('Key', { secret: true, distinctAcrossStages: true, stages: { production: { pattern: /^kq/ } } }) } })`,
      '.env.development.local': 'DOME_KEY=kq83-made-up-vzpw\n',
      '.env.staging.local': '\nDOME_KEY=kq83-made-up-vzpw\n',
      '.env.production.local': 'DOME_KEY=kq83-another-vzpw\n',
    })
    const { status, stdout } = project.mappa(['check', '--all'])
    assert.equal(status, 1)
    assert.match(stdout, /\.env\.development\.local:1:10 {2}value-shared\n.*same value in development, staging/)
    assert.match(stdout, /\.env\.staging\.local:2:10 {2}value-shared[\s\S]*Settings for production: OK/)
    assert.ok(!stdout.includes('vzpw'))
    assert.equal(project.mappa(['check']).status, 0)
    const refused = project.mappa(['set', 'DOME_KEY', '--stage', 'production', '--json'], {}, 'other-made-up')
    assert.deepEqual([refused.status, JSON.parse(refused.stdout).problems[0].code], [1, 'pattern-differs'])
    assert.equal(project.mappa(['set', 'DOME_KEY', '--stage', 'staging'], {}, 'other-made-up').status, 0)
    assert.equal(project.mappa(['check', '--all']).status, 0)
  })

  it('accept former names, and name what is deprecated or probably a slip', () => {
    const names = defineSettings({
      dome: { key: setting.string(about, { secret: true, formerly: ['DOME_TOKEN', 'TOKEN'] }) },
      old: setting.string(about, { optional: true, deprecated: 'Use DOME_KEY.' }),
      note: setting.string(about, { optional: true }),
      exact: setting.string(about, { optional: true, pattern: /^null$/ }),
    })
    const former = check(names, 'staging', { TOKEN: 'kq83' })
    assert.deepEqual([codesOf(former.problems), former.settings[0]!.value], [['name-former'], 'kq83'])
    assert.deepEqual(codesOf(check(names, 'staging', { TOKEN: 'kq83', DOME_KEY: 'x' }).problems), [
      'name-former-unused',
    ])
    const slips: Record<string, string> = {
      null: 'value-is-word',
      None: 'value-is-word',
      '"x"': 'value-in-quotes',
      "'x'": 'value-in-quotes',
      'x ': 'value-has-blanks',
      'x\r': 'value-has-blanks',
    }
    for (const [text, code] of Object.entries(slips)) {
      const { problems, values } = check(names, 'staging', { DOME_KEY: text, NOTE: text, OLD: 'x', EXACT: 'null' })
      assert.deepEqual(codesOf(problems), [code, 'setting-deprecated', code], text)
      assert.notEqual(values, null)
    }
  })

  it('are shared between packages, each with a prefix of its own', () => {
    const shared = { log: { level: setting.choice(about, { enum: ['quiet', 'chatty'], default: 'quiet' }) } } as const
    const api = defineSettings({ ...shared, dome: { key: setting.string(about) } }, { prefix: 'API_' })
    const desk = defineSettings({ ...shared, places: setting.integer(about) }, { prefix: 'DESK_' })
    assert.deepEqual(
      [...api.settings, ...desk.settings].map(({ name }) => name),
      ['API_LOG_LEVEL', 'API_DOME_KEY', 'DESK_LOG_LEVEL', 'DESK_PLACES'],
    )
    const values = check(desk, 'staging', { DESK_PLACES: '3' }).values as Values<typeof desk>
    const level: 'quiet' | 'chatty' = values.log.level
    const places: number = values.places
    assert.deepEqual([level, places], ['quiet', 3])
  })
})

describe('more layers', () => {
  const definition = defineSettings(
    {
      server: { port: setting.port('Port to listen on', { default: 4100, stages: { production: { default: 4120 } } }) },
      dome: {
        motors: setting.boolean('Whether the motors may move', { default: false }),
        key: setting.string('Key of the dome', { secret: true }),
      },
      night: { starMapUrl: setting.url('Where the star map is', { optional: true }) },
    },
    { directory: 'mounted' },
  )

  function load(root: string, flags: readonly string[], environment: Record<string, string> = {}) {
    try {
      return { values: loadSettings(definition, { root, flags, environment, onNotices() {} }), codes: [], message: '' }
    } catch (error) {
      assert.ok(error instanceof SettingsError)
      return { values: null, codes: error.problems.map(({ code }) => code), message: error.message }
    }
  }

  it('come from flags of the command line', (context) => {
    const { root } = makeProject(context, { '.env': 'DOME_KEY=made-up\n' })
    const flags = [
      '--server-port',
      '5000',
      '--no-dome-motors',
      '--night-star-map-url=https://maps.fernhollow.example',
      '--',
      '--own',
    ]
    const { values } = load(root, flags, { SERVER_PORT: '4300', DOME_MOTORS: 'yes' })
    assert.deepEqual(
      [values?.server.port, values?.dome.motors, values?.night.starMapUrl],
      [5000, false, 'https://maps.fernhollow.example'],
    )
  })

  const words: readonly (readonly [words: readonly string[], expected: unknown])[] = [
    [['--dome-motors'], true],
    [['--dome-motors', 'false'], false],
    [['--dome-motors', 'no'], false],
    [['--dome-motors', '0', '--server-port', '1'], false],
    [['--dome-motors', 'ON'], true],
    [['--dome-motors=off'], false],
    [['--no-dome-motors'], false],
    [['--dome-motors', '--no-dome-motors'], false],
    [['--dome-motors', '--', 'false'], true],
    [['--no-dome-motors=true'], 'flag-takes-no-value'],
    [['--no-dome-motors=false'], 'flag-takes-no-value'],
    [['--no-dome-motors', 'true'], 'argument-unknown'],
    [['--dome-motors', 'falsch'], 'argument-unknown'],
    [['--dome-motors='], 'flag-value-missing'],
    [['--server-port=', '1'], 'flag-value-missing argument-unknown'],
    [['--dome-key', 'kq83'], 'flag-secret'],
    [['--dome-key', 'kq83', 'kq83'], 'flag-secret argument-unknown'],
    [['--dome-kye', 'kq83'], 'flag-unknown'],
    [['--dome-kye=kq83'], 'flag-unknown'],
    [['--server-prt', '1'], 'flag-unknown'],
    [['--no-server-port'], 'flag-unknown'],
    [['--server-port'], 'flag-value-missing'],
    [['--server-port', '--dome-motors'], 'flag-value-missing'],
    [['--server-port', '-v'], 'flag-value-missing argument-unknown'],
    [['--server-port', '-1'], 'not-port'],
    [['--server-port=x'], 'not-port'],
    [['server-port=5000'], 'argument-unknown'],
    [['-p', '80', 'serve'], 'argument-unknown'],
    [['kq83'], 'argument-unknown'],
    [['--help=yes'], 'flag-takes-no-value'],
    [['---', '--=1'], 'flag-unknown flag-unknown'],
  ]
  for (const [flags, expected] of words)
    it(`take the command line ${flags.join(' ')} as ${String(expected)}`, (context) => {
      const { root } = makeProject(context, { '.env': 'DOME_KEY=made-up\n' })
      const { values, codes, message } = load(root, flags)
      assert.deepEqual(values?.dome.motors ?? codes.join(' '), expected)
      assert.ok(!message.includes('kq83'), message)
    })

  it('come beside arguments of the program itself, if it has any', (context) => {
    const { root } = makeProject(context, { '.env': 'DOME_KEY=made-up\n' })
    const flags = ['turn', '-v', '--server-port', '5000', 'x=1', '--dome-motors', 'left']
    const { server, dome } = loadSettings(definition, { root, flags, allowPositionals: true, environment: {} })
    assert.deepEqual([server.port, dome.motors], [5000, true])
    const wrong = [{ allowPositionals: true }, { flags: '--server-port=1' }, { flags: { 0: '-h' } }]
    for (const options of wrong) assert.throws(() => loadSettings(definition, { root, ...options } as never), TypeError)
  })

  it('are told apart where their flags are spelled alike', (context) => {
    const { root } = makeProject(context, {})
    const port = setting.port('Port', { default: 1 })
    const twins = defineSettings({
      server: { port, key: setting.string('Key', { secret: true, optional: true }) },
      serverPort: setting.port('Port', { default: 1, name: 'OLD_PORT' }),
      serverKey: setting.string('Key', { optional: true, name: 'OLD_KEY' }),
      dome: { open: setting.boolean('Open', { default: false }) },
      noDome: { open: setting.boolean('Not open', { default: false }) },
      help: setting.string('Help', { default: '' }),
    })
    const codes = (...flags: string[]) => {
      try {
        return loadSettings(twins, { root, flags, environment: {}, onNotices() {} }).dome.open
      } catch (error) {
        assert.ok(error instanceof SettingsError && !error.message.includes('kq83'))
        return error.problems.map(({ code, message }) => `${code}: ${message}`).join('\n')
      }
    }
    assert.match(String(codes('--server-port', '5')), /^flag-shared: .*: SERVER_PORT, OLD_PORT\.$/)
    assert.match(String(codes('--server-key=kq83')), /^flag-secret/)
    assert.match(String(codes('--no-dome-open')), /^flag-shared/)
    assert.equal(codes('--dome-open', '--help', 'me'), true)
  })

  it('make the help of a program', (context) => {
    const project = makeProject(context, {
      'package.json': '{ "type": "module", "version": "1.4.0" }',
      'run.mjs': `import { defineSettings, setting } from 'mappa-settings'
import { loadSettings } from 'mappa-settings/node'
const settings = loadSettings(defineSettings({
  server: { port: setting.port('Port to listen on', { default: 4100, stages: { production: { default: 4120 } } }) },
  dome: { motors: setting.boolean('Whether the motors may move', { default: false }), key: setting.string('Key of the dome', { secret: true }) },
}), { flags: process.argv.slice(2), onErrors: 'exit' })
console.log(settings.server.port)`,
    })
    const start = (...flags: string[]) => run(process.execPath, ['run.mjs', ...flags], project.root)
    const help = start('--help')
    assert.equal(help.status, 0)
    assert.equal(
      help.stdout,
      `Usage: run.mjs [flags]

server
  --server-port <port>  Port to listen on
                        port; default 4100; variable SERVER_PORT
                        in production: default 4120

dome
  --[no-]dome-motors    Whether the motors may move
                        true or false; default false; variable DOME_MOTORS
  DOME_KEY              Key of the dome
                        text; secret; required; not a flag, since other users can see command lines

  -h, --help            Print this.
  --version             Print the version.
`,
    )
    assert.deepEqual([start('-h').stdout, start('--help', '--x').stdout], [help.stdout, help.stdout])
    assert.equal(start('--version').stdout, '1.4.0\n')
    const refused = start('--dome-key=kq83-made-up')
    assert.deepEqual([refused.status, refused.stdout], [78, ''])
    assert.match(refused.stderr, /--dome-key passes the secret DOME_KEY/)
    assert.ok(!refused.stderr.includes('kq83'))
  })

  it('come from a directory with one file for each variable', (context) => {
    const project = makeProject(context, { '.env.development.local': 'DOME_KEY=from-a-file\n' })
    const key = () => load(project.root, []).values?.dome.key.reveal()
    assert.equal(key(), 'from-a-file')
    project.write('mounted/dome_key', 'mounted $HOME\n')
    assert.equal(key(), 'mounted $HOME')
    project.write('mounted/DOME_KEY', 'mounted\nin two lines\n\n')
    assert.equal(key(), 'mounted\nin two lines\n')
    assert.equal(load(project.root, [], { DOME_KEY: 'given' }).values?.dome.key.reveal(), 'given')
    project.write('mounted/DOME_KEY', Buffer.from([0xff, 0xfe, 0]))
    assert.equal(load(project.root, []).values, null)
    rmSync(join(project.root, 'mounted/DOME_KEY'))
    mkdirSync(join(project.root, 'mounted/DOME_KEY'))
    assert.deepEqual(load(project.root, []).codes, ['file-is-directory'])
  })

  it('are watched, and the last good values stay while new ones are wrong', async (context) => {
    const project = makeProject(context, { '.env': 'DOME_KEY=made-up-1\n' })
    const seen: unknown[] = []
    const watched = watchSettings(definition, (now, changes) => seen.push([now.server.port, changes]), {
      root: project.root,
      environment: {},
      directory: null,
      onProblems: ({ problems }) => seen.push(codesOf(problems)),
    })
    context.after(() => watched.stop())
    const next = async (count: number) => {
      for (let tries = 0; seen.length < count && tries < 200; tries++)
        await new Promise((resolve) => setTimeout(resolve, 20))
      return seen[count - 1]
    }
    project.write('.env', 'DOME_KEY=made-up-2\nSERVER_PORT=4200\n')
    assert.deepEqual(await next(1), [
      4200,
      [
        { path: 'server.port', name: 'SERVER_PORT', before: '"4100"', after: '"4200"' },
        { path: 'dome.key', name: 'DOME_KEY', before: '(secret, 9 characters)', after: '(secret, 9 characters)' },
      ],
    ])
    project.write('.env', 'DOME_KEY=made-up-2\nSERVER_PORT=x\n')
    assert.deepEqual(await next(2), ['not-port'])
    assert.equal(watched.current.server.port, 4200)
    project.write('.env.development', 'SERVER_PORT=4300\n')
    assert.deepEqual(await next(3), [
      4300,
      [{ path: 'server.port', name: 'SERVER_PORT', before: '"4200"', after: '"4300"' }],
    ])
    assert.throws(() => watchSettings(definition, () => {}, { root: '/nowhere', environment: {} }), SettingsError)
  })
})

describe('what derives from a definition', () => {
  const definition = defineSettings({
    server: { port: setting.port('Port | to listen on', { default: 4100, stages: { production: { minimum: 4000 } } }) },
    dome: {
      mode: setting.choice("The dome's mode", {
        enum: ['drill', 'open'],
        deprecated: 'Use DOME_MOTORS.',
        optional: true,
      }),
      motors: setting.boolean('Whether the motors may move', { default: false }),
      key: setting.string('Key', { secret: true, minLength: 24, formerly: ['DOME_TOKEN'] }),
      guard: setting.email('Who watches */', { optional: true, requiredIf: { 'dome.motors': true }, public: true }),
      wait: setting.duration('How long to wait', { default: 900_000 }),
    },
  })

  it('is types that the compiler holds the code to', (context) => {
    const project = makeProject(context, {
      'types.d.ts': typesFile(definition),
      'a.ts': `const mode: 'drill' | 'open' | undefined = process.env.DOME_MODE
const key: string = process.env.DOME_KEY
const guard: string | undefined = import.meta.env.DOME_GUARD
// @ts-expect-error misspelt
const typo = process.env.DOME_KYE
export { guard, key, mode, typo }
interface ImportMeta { readonly env: ImportMetaEnv }`
        .replace('interface ImportMeta', 'declare global { interface ImportMeta')
        .replace(/$/, ' }'),
      'tsconfig.json': JSON.stringify({
        compilerOptions: {
          strict: true,
          noEmit: true,
          types: ['node'],
          typeRoots: [join(REPOSITORY, 'node_modules/@types')],
          module: 'nodenext',
          target: 'es2022',
          noPropertyAccessFromIndexSignature: true,
        },
        include: ['*.ts'],
      }),
    })
    assert.equal(typeErrors(project.root), '')
  })

  it('is a reference with a column for each stage that differs', () => {
    const text = referenceFile(definition)
    assert.match(
      text,
      /## server\n\n\| variable {6}\| in code {7}\| what it is {11}\| rules {14}\| production {4}\|\n\| -+ /,
    )
    assert.match(
      text,
      /\| `SERVER_PORT` \| `server\.port` \| Port \\\| to listen on \| port; default 4100 \| at least 4000 \|/,
    )
    assert.match(text, /`DOME_KEY` .* Key; formerly `DOME_TOKEN` .* text; secret; required; at least 24 characters/)
    assert.match(text, /required when dome\.motors is true/)
  })

  it('is JSON Schema for typed values and for the environment', () => {
    const typed = valuesSchema(definition, { stage: 'development' }) as {
      properties: { dome: { properties: Record<string, object>; required: string[] } }
    }
    assert.deepEqual(typed.properties.dome.required, ['motors', 'key', 'wait'])
    assert.deepEqual(typed.properties.dome.properties.key, {
      type: 'string',
      minLength: 24,
      description: 'Key',
      writeOnly: true,
    })
    assert.deepEqual(typed.properties.dome.properties.mode, {
      type: 'string',
      enum: ['drill', 'open'],
      description: "The dome's mode",
      deprecated: true,
    })
    const environment = environmentSchema(definition, { stage: 'development' }) as {
      properties: Record<string, object>
      required: string[]
      allOf: object[]
    }
    // A former name of the key will do, so its own is not required by itself.
    assert.deepEqual(environment.required, [])
    const { default: byDefault, description } = environment.properties.DOME_WAIT as {
      default: string
      description: string
    }
    assert.deepEqual([byDefault, description], ['15m', 'How long to wait'])
    const rules = JSON.stringify(environment.allOf)
    assert.match(rules, /"if":\{"required":\["DOME_TOKEN"\]\}.*"else":\{"required":\["DOME_KEY"\]\}/)
    assert.match(rules, /"if":.*"DOME_MOTORS":\{"pattern":.*"then":\{"required":\["DOME_GUARD"\]/)
  })

  it('is written by mappa write, which leaves alone what is right', (context) => {
    const project = makeProject(context, {
      'src/settings.definition.ts': `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({ dome: { key: setting.string('Key', { secret: true }) } })`,
    })
    const files = {
      types: 'src/settings.env.d.ts',
      reference: 'docs/settings.md',
      schema: 'settings.schema.json',
    }
    for (const [what, file] of Object.entries(files)) {
      const whole = join(project.root, file)
      assert.equal(project.mappa(['write', what, '--verify']).status, 1)
      assert.ok(!existsSync(whole))
      assert.match(project.mappa(['write', what]).stdout, new RegExp(`${file.replaceAll('.', '\\.')} is written`))
      const { mtimeMs } = statSync(whole)
      assert.equal(project.mappa(['write', what]).status, 0)
      assert.equal(statSync(whole).mtimeMs, mtimeMs)
      assert.equal(project.mappa(['write', what, '--verify']).status, 0)
      project.write(file, `${readFileSync(whole, 'utf8')}\n`)
      assert.equal(project.mappa(['write', what, '--verify']).status, 1)
    }
    project.mappa(['write', 'schema', '--out-dir', 'made'])
    assert.deepEqual(readdirSync(join(project.root, 'made')), [
      'settings.environment.schema.json',
      'settings.schema.json',
    ])
  })
})
