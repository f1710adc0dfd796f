import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { makeProject, run } from '@mappa/tests/support/project'
import fc from 'fast-check'
import { defineSettings, setting } from 'mappa-settings'
import { inspectSettings } from 'mappa-settings/node'

const load = (options: string) => `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
console.log(loadSettings(definition, ${options}).dome.url)
`
/** A loader as a framework has one: what stands in a file goes into the environment. */
const LOADER = `import { readFileSync } from 'node:fs'
for (const [, name, value] of readFileSync(process.env.LOADS ?? '.env.production', 'utf8').matchAll(/^(\\w+)=(.*)$/gm))
  process.env[name] ||= value
`
const FILES = {
  'settings.definition.mjs': `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  dome: {
    url: setting.string('Address of the dome controller'),
    key: setting.string('Name of the key', { default: 'none' }),
  },
})
`,
  'start.mjs': load(`{ onErrors: 'exit' }`),
  'own.mjs': load('{ environment: process.env }'),
  'loader.mjs': LOADER,
  'here.mjs': "import './loader.mjs'\nawait import('./start.mjs')\n",
  'refers.mjs': "process.env.DOME_KEY = 'code'\nawait import('./start-key.mjs')\n",
  'start-key.mjs': load(`{ onErrors: 'exit' }`).replace('.dome.url', '.dome.key'),
  'taken.mjs': "import './loader.mjs'\nawait import('./own.mjs')\n",
  'code.mjs': "process.env.DOME_URL = 'code'\nawait import('./start.mjs')\n",
  'worker.mjs':
    "import './loader.mjs'\nimport { Worker } from 'node:worker_threads'\nnew Worker(new URL('start.mjs', import.meta.url))\n",
  'fork.mjs': `import './loader.mjs'
import { fork } from 'node:child_process'
fork('start.mjs').on('exit', (code) => process.exit(code))
`,
  'framework.mjs': "process.env.__NEXT_PROCESSED_ENV = 'true'\nawait import('./fork.mjs')\n",
  '.env': 'DOME_URL=base\n',
  '.env.production': 'DOME_URL=production\n',
  '.env.staging': 'DOME_URL=staging\nDOME_KEY=${DOME_URL}\n',
  '.env.development': 'MAPPA_STAGE=production\n',
  '.env.development.local': 'DOME_URL="a \\"b\\" c"\n',
  '.env.local': 'NODE_ENV=production\n',
}
const NOT_USED = /^staging\n[\s\S]*For staging other values are used, not these: DOME_URL \(\.env\.production\)[\s\S]*$/
const UNCLEAR = /^Settings for staging: 1 error[\s\S]*environment-from-file[\s\S]*has the value of \.env\.production/
const bun = { npm_config_user_agent: 'bun/1.2.0 npm/?' }

/** What happens, how the program is started in a shell, more variables of the shell, and all that it says. */
const STARTS: readonly (readonly [string, string, Record<string, string>, RegExp])[] = [
  ['in the process that loaded them', 'node here.mjs', {}, NOT_USED],
  ['in a worker thread', 'node worker.mjs', {}, NOT_USED],
  ['in a process that a known framework started', 'node framework.mjs', {}, NOT_USED],
  ['in a process that another program started', 'node fork.mjs', {}, UNCLEAR],
  ['in none that mappa run started', 'mappa run -- node fork.mjs', {}, /^staging\n$/],
  ['if the layers have the same', 'node fork.mjs', { LOADS: '.env.staging' }, /^staging\n$/],
  [
    'with other quotes',
    'node here.mjs',
    { LOADS: '.env.development.local' },
    /^staging\n[\s\S]*\(\.env\.development\.local\)/,
  ],
  ['but what was set by hand', 'DOME_URL=hand node here.mjs', {}, /^hand\n$/],
  ['but what was set by hand to the same', 'DOME_URL=production node here.mjs', {}, /^production\n$/],
  ['but what was set by hand to the same, for a child', 'DOME_URL=production node fork.mjs', {}, /^production\n$/],
  ['but what code sets', 'node code.mjs', {}, /^code\n$/],
  ['but what code sets, where a file has a reference', 'node refers.mjs', {}, /^code\n$/],
  ['but what the program takes', 'node taken.mjs', {}, /^production\n$/],
  ['of a runtime', 'node --env-file=.env start.mjs', {}, /^staging\n[\s\S]*DOME_URL \(\.env\)[\s\S]*--env-file/],
  ['of a runtime, but by hand', 'DOME_URL=base node --env-file=.env start.mjs', {}, /^base\n$/],
  ['of a runtime, but by code', 'node --env-file=.env code.mjs', {}, /^code\n$/],
  [
    'of a runtime that started it',
    'node start.mjs',
    { ...bun, DOME_URL: 'base' },
    /^staging\n[\s\S]*DOME_URL \(\.env\)[\s\S]*bun --no-env-file run/,
  ],
  [
    'and choose no stage',
    'node here.mjs',
    { LOADS: '.env.development', MAPPA_STAGE: '', NODE_ENV: 'staging' },
    /stage-from-file[\s\S]*MAPPA_STAGE in the process environment has the value of \.env\.development/,
  ],
  [
    'and may name the stage that holds anyway',
    'node here.mjs',
    { LOADS: '.env.development', MAPPA_STAGE: '', NODE_ENV: 'production' },
    /^production\n$/,
  ],
  [
    'and choose no stage for a runtime that started it',
    'node start.mjs',
    { ...bun, MAPPA_STAGE: '', NODE_ENV: 'production' },
    /stage-from-file[\s\S]*NODE_ENV[^→]*\.env\.local[\s\S]*; or start the script with bun --no-env-file/,
  ],
  [
    'but the stage may be set by hand',
    'NODE_ENV=staging node --env-file=.env.local start.mjs',
    { MAPPA_STAGE: '' },
    /^staging\n$/,
  ],
]

const NAMES = ['DOME_URL', 'DOME_KEY', 'BASE'] as const
const OF_TEXTS = defineSettings({
  dome: {
    url: setting.string('Address of the dome controller', { default: 'none' }),
    key: setting.string('Key that the dome controller asks for', { default: 'none' }),
  },
})
const STAGES = ['development', 'staging', 'production']
const LAYERS = ['.env', '.env.local', ...STAGES.flatMap((stage) => [`.env.${stage}`, `.env.${stage}.local`])]
const BASE = 'https://dome.fernhollow.example'
const TEXT = fc.constantFrom('one', 'two', 'a b', "it's", '${BASE:-x}/tonight')
type Texts = Readonly<Record<string, string>>
const FILE: fc.Arbitrary<Texts> = fc.record(
  { DOME_URL: TEXT, DOME_KEY: TEXT, BASE: fc.constant(BASE) },
  { requiredKeys: [] },
)
const WRITTEN = fc.record(Object.fromEntries(LAYERS.map((each) => [each, FILE])), { requiredKeys: [] })
/** The files that were loaded, the first of them before the others. */
const ORDER = fc.shuffledSubarray(LAYERS)

const formatFile = (texts: Texts) =>
  Object.entries(texts)
    .map(([name, text]) => `${name}="${text}"\n`)
    .join('')
/** What a loader makes of a file. */
const expandAll = (texts: Texts) =>
  Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, text.replace('${BASE:-x}', BASE)]))

describe('values that were loaded into the environment lie above no layer', () => {
  for (const [what, command, variables, told] of STARTS)
    it(what, (context) => {
      const { root } = makeProject(context, FILES)
      const mappa = 'mappa() { node node_modules/mappa-cli/dist/main.js "$@"; }'
      // The shell stays until the end: what it types out is set by a person.
      const words = ['-c', `${mappa}; ${command}; exit $?`]
      const { stdout, stderr } = run('sh', words, root, { MAPPA_STAGE: 'staging', ...variables })
      assert.match(stdout + stderr, told)
    })

  it('a program gets what mappa show tells, whatever was loaded', (context) => {
    const { root, write } = makeProject(context, {})
    const inspect = (stage: string, more: { readonly environment?: Record<string, string> }) => {
      const { settings } = inspectSettings(OF_TEXTS, { stage, root, ...more })
      return settings.map(({ text, origin }) => ({ text, origin }))
    }
    const property = fc.property(WRITTEN, ORDER, fc.constantFrom(...STAGES), (files, loaded, stage) => {
      for (const each of LAYERS) write(each, formatFile(files[each] ?? {}))
      const alone = inspect(stage, { environment: {} })
      try {
        for (const each of loaded.toReversed()) Object.assign(process.env, expandAll(files[each] ?? {}))
        assert.deepEqual(inspect(stage, {}), alone)
      } finally {
        for (const name of NAMES) delete process.env[name]
      }
    })
    fc.assert(property, { numRuns: 300, seed: 39 })
  })
})
