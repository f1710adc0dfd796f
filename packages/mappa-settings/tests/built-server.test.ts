import assert from 'node:assert/strict'
import { cpSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { configOf, makePage, PAGE_DEFINITION } from '@mappa/tests/support/page-project'
import { run } from '@mappa/tests/support/project'
import type { MappaOptions } from 'mappa-settings/vite'
import { build } from 'vite'

const SERVER = `import { settings } from 'virtual:mappa/server'
console.log(settings.server.port)
`
const FILES = {
  'src/server.ts': SERVER,
  '.env.development': 'SERVER_PORT=4301\n',
  '.env.staging': 'SERVER_PORT=4302\n',
  '.env.production': 'SERVER_PORT=4303\n',
  '.env.local': 'DESK_KEY=slip-93ae77c0d1f2\n',
  '.env.development.local': '',
  '.env.production.local': '',
  'elsewhere/package.json': '{}',
  'elsewhere/.env': 'SERVER_PORT=4399\n',
  'shared/.env':
    'SERVER_PORT=4310\nVISITOR_STAR_MAP_URL=https://maps.fernhollow.example/tonight\nDESK_KEY=slip-93ae77c0d1f2\n',
}
const AT_RUNTIME = PAGE_DEFINITION.replace(/public: true(?!, readAt)/g, "public: true, readAt: 'runtime'")

interface Start {
  readonly options?: MappaOptions
  readonly files?: Record<string, string>
  /** The stage that the server is built for; production if left out. */
  readonly mode?: string
  readonly environment?: Record<string, string>
  /** Where it is started, relative to the project. */
  readonly from?: string
  /** Runs between the build and the start. */
  readonly then?: (root: string) => void
  readonly told: RegExp
  /** The exit code, where it matters. */
  readonly exit?: number
}

const STARTS: Readonly<Record<string, Start>> = {
  'the stage of its build, where none is named': { told: /^4303\n$/ },
  'the stage of its build, where NODE_ENV names none': { environment: { NODE_ENV: 'test' }, told: /^4303\n$/ },
  'the same stage by name': { mode: 'staging', environment: { MAPPA_STAGE: 'staging' }, told: /^4302\n$/ },
  'no other stage by name': {
    environment: { MAPPA_STAGE: 'staging' },
    told: /stage-not-of-build[\s\S]*This program was built for production, and MAPPA_STAGE names staging/,
  },
  'no other stage by NODE_ENV': {
    mode: 'staging',
    environment: { NODE_ENV: 'production' },
    told: /This program was built for staging, and NODE_ENV names production[\s\S]*MAPPA_STAGE=staging/,
  },
  'another stage if that is allowed': {
    options: { allowOtherStage: true },
    environment: { MAPPA_STAGE: 'staging' },
    told: /^4302\n$/,
  },
  'another stage where the page has nothing of the build': {
    files: { 'settings.definition.ts': AT_RUNTIME },
    environment: { MAPPA_STAGE: 'staging' },
    told: /^4302\n$/,
  },
  'what is missing before it does anything': {
    files: {
      'src/server.ts': "console.log('listens')\nawait import('./routes.ts')\n",
      'src/routes.ts': SERVER,
    },
    environment: { DESK_KEY: '' },
    told: /^Settings for production: 1 error[\s\S]*DESK_KEY is empty(?![\s\S]*listens)/,
    exit: 78,
  },
  'nothing of settings that it does not load': {
    files: { 'src/server.ts': "console.log('listens')\n" },
    environment: { DESK_KEY: '' },
    told: /^listens\n$/,
  },
  'its own files, wherever it is started': { from: 'elsewhere', told: /^4303\n$/ },
  'the files of the root that the plugin has': { options: { root: 'shared' }, told: /^4310\n$/ },
  'the files of that root, wherever it is started': {
    options: { root: 'shared' },
    from: 'elsewhere',
    told: /^4310\n$/,
  },
  'its own files, where a build wrote a package.json': {
    then: (root) => writeFileSync(join(root, 'dist/package.json'), '{ "type": "module" }'),
    told: /^4303\n$/,
  },
  'the files beside it, where it was copied': {
    from: 'copied',
    then(root) {
      mkdirSync(join(root, 'copied'))
      cpSync(join(root, 'dist'), join(root, 'copied/dist'), { recursive: true })
      writeFileSync(join(root, 'copied/package.json'), '{ "type": "module" }')
      writeFileSync(join(root, 'copied/.env'), FILES['shared/.env'].replace('4310', '4320'))
    },
    told: /^4320\n$/,
  },
}

describe('a server that was built gets', () => {
  for (const [
    what,
    { options = {}, files = {}, mode = 'production', environment, from = '', then, told, exit },
  ] of Object.entries(STARTS))
    it(what, async (context) => {
      const { root } = makePage(context, { ...FILES, ...files })
      if (options.root !== undefined)
        cpSync(join(root, 'settings.definition.ts'), join(root, 'shared/settings.definition.ts'))
      await build(configOf(root, { mode, build: { ssr: 'src/server.ts' } }, options))
      then?.(root)
      const server = join(root, what.includes('copied') ? 'copied' : '', 'dist/server.js')
      const { status, stdout, stderr } = run(process.execPath, [server], join(root, from), environment)
      assert.match(stdout + stderr, told)
      if (exit !== undefined) assert.equal(status, exit)
    })
})
