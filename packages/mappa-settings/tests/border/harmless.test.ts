import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { makePage, PAGE_DEFINITION, PAGE_FILES } from '@mappa/tests/support/page-project'
import { serve } from '@mappa/tests/support/serving'

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)
const shared = (file: string, text: string) => ({
  'settings.definition.ts': `import mirrors from './${file}'\nimport { defineSettings, setting } from 'mappa-settings'\nvoid mirrors\n${PAGE_DEFINITION.split('\n').slice(1).join('\n')}`,
  [file]: text,
})

/** What nobody should be kept from, in a build and while serving. */
const HARMLESS: readonly (readonly [
  what: string,
  files: Record<string, string | Uint8Array>,
  main?: string,
  urls?: readonly string[],
])[] = [
  ['nothing but its settings', {}],
  [
    'data that its definition knows as well',
    shared('mirrors.json', '["east", "west"]'),
    "import mirrors from '../mirrors.json'\nconsole.log(mirrors)",
  ],
  [
    'constants that its definition knows as well',
    shared('mirrors.ts', "export default ['east', 'west']\n"),
    "import mirrors from '../mirrors.ts'\nconsole.log(mirrors)",
  ],
  [
    'types of the definition',
    {},
    "import type definition from '../settings.definition.ts'\nexport type All = typeof definition",
  ],
  [
    'pictures, styles and fonts',
    { 'src/moon.png': PNG, 'src/desk.css': 'h1 { background: url("./moon.png") no-repeat }\n' },
    "import './desk.css'\nimport moon from './moon.png'\nconsole.log(moon, new URL('./moon.png', import.meta.url).href)",
  ],
  [
    'files that are served as they are',
    { 'public/robots.txt': 'User-agent: *\n', 'public/moon.png': PNG },
    '',
    ['/robots.txt', '/moon.png'],
  ],
  [
    'an address below the name of the directory of secrets',
    {
      'settings.definition.ts': PAGE_DEFINITION.replace(/\}\)\n$/, "}, { directory: './mounted' })\n"),
      'mounted/DESK_KEY': 'drill-9b2f6c71d0e84a35',
    },
    '',
    ['/mounted/tonight'],
  ],
  [
    'a module with a name like that of an env file',
    { 'src/env.ts': 'export const moon = 1\n', 'src/own-env.ts': 'export const star = 2\n' },
    "import { moon } from './env.ts'\nimport { star } from './own-env.ts'\nconsole.log(moon, star)",
  ],
  [
    'a worker',
    { 'src/work.ts': 'postMessage(1)\n' },
    "new Worker(new URL('./work.ts', import.meta.url), { type: 'module' })",
  ],
  [
    'links in its text',
    {
      'index.html':
        '<a href="https://maps.fernhollow.example/.env">about</a><a href="/night">night</a><script type="module" src="/src/main.ts"></script>',
    },
  ],
  [
    'a text about env files',
    {
      'index.html': '<pre>NODE_ENV=production</pre><script type="module" src="/src/main.ts"></script>',
      '.env.production': 'NODE_ENV=production\n',
    },
  ],
  [
    'the whole text of a file that holds public values alone',
    { 'src/env-text.ts': `export default ${JSON.stringify(PAGE_FILES['.env']!.trim())}\n` },
    "import text from './env-text.ts'\nconsole.log(text)",
  ],
  [
    'common words that private settings have as well',
    {
      '.env.local': 'DESK_LEDGER=same-origin\n',
      'settings.definition.ts': PAGE_DEFINITION.replace(
        'ledger: setting.path(',
        "roles: setting.list('Roles', { default: ['admin', 'editor', 'viewer'] }),\n    ledger: setting.string(",
      ),
    },
    "console.log(['admin', 'editor', 'viewer'], 'same-origin')",
  ],
  [
    'an address that is made of a key without a setting',
    {
      '.env':
        'MAPS_KEY=Kd8mQ2zX7vB1nM5cT3yR\nVISITOR_STAR_MAP_URL=\'https://maps.fernhollow.example/tonight\'\nVISITOR_NOTICE="https://tiles.fernhollow.example/?key=${MAPS_KEY}"\n',
    },
  ],
  [
    'a glob',
    { 'src/areas/moon.ts': 'export default 1\n' },
    "console.log(import.meta.glob('./areas/*.ts', { eager: true }))",
  ],
]

describe('a page is built and served that has', () => {
  for (const [what, files, main = '', urls = []] of HARMLESS) {
    it(what, async (context) => {
      const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}${main}\n`, ...files })
      const built = await page.build({ worker: { format: 'es' } })
      assert.match(Object.values(built).join('\n'), /maps\.fernhollow\.example\/tonight/)
      const served = await serve(context, page.root, { urls })
      assert.equal(served.page.status, 200, served.log)
      for (const [url, status] of served.statuses) assert.ok(status < 400 || /night$/.test(url), `${url} ${status}`)
      for (const url of urls) assert.notEqual(served.statuses.get(url), 403, url)
    })
  }
})

it('a page is built with a link to an env file that is not there', async (context) => {
  const link = '<a href="/docs/.env.local">about</a><script type="module" src="/src/main.ts"></script>'
  const page = makePage(context, { 'index.html': link })
  assert.match((await page.build())['index.html']!, /docs\/\.env\.local/)
})
