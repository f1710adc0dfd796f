import assert from 'node:assert/strict'
import { existsSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import {
  configOf,
  filesIn,
  KEY,
  LEDGER,
  makePage,
  PAGE_DEFINITION,
  PAGE_FILES,
} from '@mappa/tests/support/page-project'
import { REPOSITORY } from '@mappa/tests/support/project'
import { listener } from '@mappa/tests/support/serving'
import type { MappaOptions } from 'mappa-settings/vite'
import { build, type InlineConfig } from 'vite'

/** What somebody does, and the code of the problem that must keep the page from being built. */
interface Attack {
  readonly how: string
  readonly code: string
  readonly files?: Record<string, string>
  /** Put behind the page's own code. */
  readonly main?: string
  readonly config?: InlineConfig
  readonly options?: MappaOptions
  /** True where somebody else has written the file, and it stays. */
  readonly left?: boolean
  /** Something that the message must say as well. */
  readonly says?: RegExp
}

const HELPER = {
  'src/helper.ts': `import { settings } from 'virtual:mappa/server'\nexport const port = settings.server.port\n`,
}
const SETTINGS = {
  'src/settings.ts': `import { loadSettings } from 'mappa-settings/node'\nimport definition from '../settings.definition.ts'\nexport const settings = loadSettings(definition)\n`,
}
const text = JSON.stringify
const hex = Buffer.from(KEY).toString('hex')
const base64 = (before: string) => Buffer.from(`${before}${KEY}zz`).toString('base64')
const escapes = [...KEY].map((each) => `\\u${each.charCodeAt(0).toString(16).padStart(4, '0')}`).join('')
const references = [...KEY].map((each) => `&#${each.charCodeAt(0)};`).join('')
const named = KEY.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;').replaceAll("'", '&#39;')

const BORDER: readonly Attack[] = [
  {
    how: 'imports the server side',
    code: 'server-in-page',
    main: `import { settings as all } from 'virtual:mappa/server'\nconsole.log(all)`,
  },
  {
    how: 'imports a helper that does',
    code: 'server-in-page',
    files: { ...HELPER, 'src/menu.ts': `export { port } from './helper.ts'\n` },
    main: `import { port } from './menu.ts'\nconsole.log(port)`,
    says: /index\.html:1 .*main\.ts"[\s\S]*src\/main\.ts:\d+ +import \{ port \} from '\.\/menu\.ts'[\s\S]*src\/menu\.ts:1 +export \{ port \} from '\.\/helper\.ts' {3}<-- change this[\s\S]*src\/helper\.ts:1 /,
  },
  {
    how: 'imports it later',
    code: 'server-in-page',
    files: HELPER,
    main: `import('./helper.ts').then(console.log)`,
    says: /src\/main\.ts:\d+ +import\('\.\/helper\.ts'\)/,
  },
  {
    how: 'imports what loads all settings',
    code: 'server-in-page',
    files: SETTINGS,
    main: `import { settings as all } from './settings.ts'\nconsole.log(all)`,
    says: /import \{ settings as all \} from '\.\/settings\.ts' {3}<-- change this/,
  },
  { how: 'imports mappa-settings/preload', code: 'server-in-page', main: `import 'mappa-settings/preload'` },
  {
    how: 'imports a built file by its path',
    code: 'server-in-page',
    main: `import ${text(join(REPOSITORY, 'packages/mappa-settings/dist/node.js'))}`,
  },
  {
    how: 'imports the definition',
    code: 'definition-in-page',
    main: `import definition from '../settings.definition.ts'\nconsole.log(definition)`,
  },
  {
    how: 'imports it under another name',
    code: 'definition-in-page',
    main: `import definition from '@all'\nconsole.log(definition)`,
    config: { resolve: { alias: { '@all': '/settings.definition.ts' } } },
  },
  {
    how: 'imports a layer file as a text',
    code: 'env-file-in-page',
    main: `import layer from '../.env?raw'\nconsole.log(layer)`,
  },
  {
    how: 'imports all layer files at once',
    code: 'env-file-in-page',
    main: `console.log(import.meta.glob('../.env*', { query: '?raw', eager: true, exhaustive: true }))`,
  },
  {
    how: 'has a package import it',
    code: 'server-in-page',
    files: {
      'node_modules/lens/index.js': `export * from 'mappa-settings/node'\n`,
      'node_modules/lens/package.json': '{ "type": "module", "main": "index.js" }',
    },
    main: `import * as lens from 'lens'\nconsole.log(lens)`,
  },
  {
    how: 'does it in a script of the page',
    code: 'server-in-page',
    files: {
      'index.html': `<script type="module">import { settings } from 'virtual:mappa/server'; console.log(settings)</script>`,
    },
  },
  {
    how: 'does it in a worker',
    code: 'server-in-page',
    files: { ...HELPER, 'src/worker.ts': `import { port } from './helper.ts'\npostMessage(port)\n` },
    main: `new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })`,
    config: { worker: { format: 'es' } },
  },
  {
    how: 'does it in another page',
    code: 'server-in-page',
    files: { ...HELPER, 'night.html': '<script type="module" src="/src/helper.ts"></script>' },
    config: { build: { rolldownOptions: { input: ['index.html', 'night.html'] } } },
  },
  {
    how: 'reads a public setting that is none',
    code: 'public-unknown',
    main: 'console.log(settings.visitor.placse)',
    says: /visitor\.placse[\s\S]*Did you mean visitor\.places/,
  },
  { how: 'imports a module that is none', code: 'module-unknown', main: `import 'virtual:mappa/sever'` },
]

const READS: readonly Attack[] = [
  {
    how: 'reads a secret',
    code: 'read-not-public',
    main: 'console.log(import.meta.env.DESK_KEY)',
    says: /src\/main\.ts:4:13/,
  },
  {
    how: 'reads a secret of the process',
    code: 'read-not-public',
    main: 'console.log(process.env.DESK_KEY)',
    options: { inlineReads: ['process.env'] },
  },
  {
    how: 'reads a name by mistake',
    code: 'read-unknown',
    main: `console.log(import.meta.env['VISITOR_PLACSE'])`,
    options: { inlineReads: ['import.meta.env'] },
    says: /Did you mean VISITOR_PLACES/,
  },
  {
    how: 'takes names out of it',
    code: 'read-unknown',
    main: 'const { VISITOR_PLACES, VISITOR } = import.meta.env\nconsole.log(VISITOR_PLACES, VISITOR)',
    options: { inlineReads: ['import.meta.env'] },
  },
  {
    how: 'reads a name that only shows later',
    code: 'read-dynamic',
    main: 'console.log(import.meta.env[document.title])',
    options: { inlineReads: ['import.meta.env'] },
  },
  {
    how: 'reads what is not known yet',
    code: 'read-at-runtime',
    main: 'console.log(import.meta.env.VISITOR_NOTICE)',
    options: { inlineReads: ['import.meta.env'] },
  },
  {
    how: 'reads without having said so',
    code: 'read-not-inlined',
    main: 'console.log(import.meta.env.VISITOR_PLACES)',
    says: /settings\.visitor\.places/,
  },
  {
    how: 'reads a secret in the text of the page',
    code: 'read-not-public',
    files: { 'index.html': '<title>%DESK_KEY%</title>' },
    says: /index\.html:1:8/,
  },
  {
    how: 'reads in the text of the page without having said so',
    code: 'read-not-inlined',
    files: { 'index.html': '<title>%VISITOR_PLACES%</title>' },
  },
  {
    how: 'reads in a language of its own',
    code: 'read-in-other-language',
    files: { 'src/sky.lens': '<sky>import.meta.env.VISITOR_PLACES</sky>' },
    main: `import './sky.lens'`,
    config: { plugins: [{ name: 'lens', transform: (_, id) => (id.endsWith('.lens') ? 'export {}' : null) }] },
  },
]

const LEAKS: readonly Attack[] = [
  { how: 'holds the value', code: 'value-in-page', main: `console.log(${text(KEY)})`, says: /from src\/main\.ts/ },
  { how: 'holds a private value', code: 'private-in-page', main: `console.log('${LEDGER}')` },
  {
    how: 'adds it up',
    code: 'value-in-page',
    main: `console.log(${text(KEY.slice(0, 9))} + /* and */\n ${text(KEY.slice(9))})`,
    config: { build: { minify: false } },
  },
  {
    how: 'joins it',
    code: 'value-in-page',
    main: `console.log([${text(KEY.slice(0, 9))}, ${text(KEY.slice(9))}].join(''))`,
  },
  {
    how: 'puts it into a template',
    code: 'value-in-page',
    main: `console.log(\`${KEY.slice(0, 3)}\${${text(KEY.slice(3, 6))}}${KEY.slice(6).replaceAll('\\', '\\\\')}\`)`,
    config: { build: { minify: false } },
  },
  {
    how: 'hangs it together',
    code: 'value-in-page',
    main: `console.log(${text(KEY.slice(0, 7))}.concat(${text(KEY.slice(7))}))`,
  },
  { how: 'writes it in escapes', code: 'value-in-page', files: { 'public/keys.js': `export default "${escapes}"` } },
  {
    how: 'writes it in JSON within a text',
    code: 'value-in-page',
    main: `console.log(JSON.parse(${text(text({ key: KEY }))}))`,
  },
  {
    how: 'writes it as part of an address',
    code: 'value-in-page',
    main: `console.log('https://dome.fernhollow.example/?key=${encodeURIComponent(KEY).replaceAll("'", '%27')}')`,
  },
  { how: 'writes it into the page', code: 'value-in-page', files: { 'index.html': `<p title="${named}"></p>` } },
  { how: 'writes it into the page by numbers', code: 'value-in-page', files: { 'index.html': `<p>${references}</p>` } },
  ...['', 'x', 'xx'].map((before) => ({
    how: `writes it in base64 behind ${before.length} others`,
    code: 'value-in-page',
    main: `console.log('${base64(before)}')`,
  })),
  {
    how: 'writes it in base64 for addresses',
    code: 'value-in-page',
    main: `console.log('${Buffer.from(KEY).toString('base64url')}')`,
  },
  { how: 'writes it in hexadecimal digits', code: 'value-in-page', main: `console.log('${hex}')` },
  {
    how: 'writes it in pairs of them',
    code: 'value-in-page',
    main: `console.log('${hex.match(/../g)!.join(':')}')`,
  },
  {
    how: 'writes it in base64 of several lines',
    code: 'value-in-page',
    main: `console.log(\`${base64('before it, ')
      .match(/.{1,20}/g)!
      .join('\n  ')}\`)`,
  },
  {
    how: 'writes it in base64 twice',
    code: 'value-in-page',
    main: `console.log('${Buffer.from(base64('')).toString('base64')}')`,
  },
  {
    how: 'writes it by its character codes',
    code: 'value-in-page',
    main: `console.log(String.fromCharCode(${KEY.split('')
      .map((each) => each.charCodeAt(0))
      .join(', ')}))`,
  },
  { how: 'writes it in capital ones', code: 'value-in-page', main: `console.log('${hex.toUpperCase()}')` },
  {
    how: 'writes it into styles',
    code: 'value-in-page',
    files: { 'src/desk.css': `h1::after { content: "${KEY.replaceAll('\\', '\\\\').replaceAll('"', '\\"')}" }` },
    main: `import './desk.css'`,
  },
  {
    how: 'imports it as data',
    code: 'value-in-page',
    files: { 'src/desk.json': text({ key: KEY }) },
    main: `import desk from './desk.json'\nconsole.log(desk)`,
  },
  {
    how: 'has it in a picture',
    code: 'value-in-page',
    files: { 'src/dome.svg': `<svg xmlns="http://www.w3.org/2000/svg"><!-- ${KEY} --></svg>` },
    main: `import dome from './dome.svg'\nconsole.log(dome)`,
    config: { build: { assetsInlineLimit: 0 } },
  },
  {
    how: 'has it in a picture within the code',
    code: 'value-in-page',
    files: { 'src/dome.svg': `<svg xmlns="http://www.w3.org/2000/svg"><text>${named}</text></svg>` },
    main: `import dome from './dome.svg'\nconsole.log(dome)`,
  },
  {
    how: 'has it in a layer file that is an asset',
    code: 'address-in-page',
    main: `console.log(new URL('../.env.production.local', import.meta.url).href)`,
    files: { '.env.production.local': `DESK_KEY=slip-000111222333aaa\nDESK_LEDGER=${LEDGER}\n` },
  },
  {
    how: 'copies a layer file beside the page',
    code: 'env-file-served',
    files: { 'public/.env.production.local': PAGE_FILES['.env.production.local']! },
  },
  {
    how: 'has it in a comment that only a source map keeps',
    code: 'value-in-page',
    main: `// ${KEY}\nconsole.log(1)`,
    config: { build: { sourcemap: true } },
  },
  ...[0, 1].map((index) => ({
    how: `hides it in pieces behind a NUL, ${['in a file as it is', 'in its code'][index]}`,
    code: 'value-in-page',
    files: index === 0 ? { 'public/keys.js': `// \0\n${text(KEY.slice(0, 9))} + ${text(KEY.slice(9))}` } : {},
    main: index === 1 ? `console.log("\0", [${text(KEY.slice(0, 9))}, ${text(KEY.slice(9))}].join(''))` : '',
  })),
  {
    how: 'has it in two pieces that only a source map keeps',
    code: 'value-in-page',
    main: `// ${text('slip-3d5a77c0')} + ${text('9be14f')}\nconsole.log(1)`,
    files: { '.env.production.local': 'DESK_KEY=slip-3d5a77c09be14f\n' },
    config: { build: { sourcemap: true } },
  },
  {
    how: 'has the bundler put it there',
    code: 'value-in-page',
    main: 'console.log(__KEY__)',
    config: { define: { __KEY__: text(KEY) } },
  },
  {
    how: 'puts it above everything',
    code: 'value-in-page',
    config: { build: { minify: false, rolldownOptions: { output: { banner: `/*! ${KEY} */` } } } },
  },
  {
    how: 'hides it in a worker',
    code: 'value-in-page',
    files: { 'src/worker.ts': `postMessage(${text(KEY)})\n` },
    main: `new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })`,
  },
  {
    how: 'hides it in a worker within the code',
    code: 'value-in-page',
    files: { 'src/worker.ts': `postMessage(${text(KEY)})\n` },
    main: `import Work from './worker.ts?worker&inline'\nnew Work()`,
  },
  {
    how: 'writes it behind the build',
    left: true,
    code: 'value-in-page',
    config: { plugins: [{ name: 'behind', writeBundle: ({ dir }) => writeFileSync(join(dir!, 'late.txt'), KEY) }] },
  },
  { how: 'lets a secret appear', code: 'allow-in-page-wrong', options: { allowInPage: ['DESK_KEY'] } },
]

/** Forms of private values that nothing may show. */
const SECRET_FORMS = [KEY, text(KEY).slice(1, -1), hex, LEDGER]

/** All that a build wrote. */
const writtenIn = ({ root }: { readonly root: string }) =>
  existsSync(join(root, 'dist')) ? Object.values(filesIn(join(root, 'dist'))).join('\n') : ''

for (const [title, attacks] of Object.entries({
  'the border': BORDER,
  'reads of variables': READS,
  'the leak check': LEAKS,
})) {
  describe(title, () => {
    for (const { how, code, files, main = '', config, options, says, left } of attacks) {
      it(`fails the build of a page that ${how}`, async (context) => {
        const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}${main}\n`, ...files })
        await assert.rejects(page.build(config, options), (error: Error) => {
          assert.ok(error.message.includes(`  ${code}\n`), error.message)
          if (says !== undefined) assert.match(error.message, says)
          const written = left === true ? '' : writtenIn(page)
          for (const secret of SECRET_FORMS) {
            assert.ok(!written.includes(secret), 'it is on the disk')
            assert.ok(!error.message.includes(secret))
          }
          return true
        })
      })
    }
  })
}

describe('a page that may be built', () => {
  it('has types of the server side, and nothing of private settings', async (context) => {
    const page = makePage(context, {
      ...SETTINGS,
      'src/main.ts': `import type definition from '../settings.definition.ts'
import type { settings as all } from './settings.ts'
export type Both = [typeof definition, typeof all]
${PAGE_FILES['src/main.ts']}`,
    })
    const files = await page.build({ build: { sourcemap: true } })
    const everything = Object.values(files).join('\n')
    assert.match(everything, /https:\/\/maps\.fernhollow\.example\/tonight/)
    for (const private_ of [
      'desk.key',
      'DESK_KEY',
      'ledger',
      'booking',
      'Port of',
      'Line on top',
      '4300',
      'nobody reads',
    ])
      assert.ok(!everything.includes(private_), private_)
  })

  it('carries nothing of Mappa where it reads values of the build alone', async (context) => {
    const code = (places: string, map: string, nights: string) =>
      `document.title = ${map} + ${places}\nconsole.log(${nights}, import.meta.env.MODE)\n`
    const read = "import { settings } from 'virtual:mappa/browser'\n"
    const one = makePage(context, {
      'src/main.ts': read + code('settings.visitor.places', 'settings.visitor.starMapUrl', 'settings.visitor.nights'),
    })
    const other = makePage(context, {
      'src/main.ts': code('12', '"https://maps.fernhollow.example/tonight"', '["Fri","Sat"]'),
    })
    const [with_, without] = [await one.build(), await other.build()]
    assert.equal(with_['index.html']?.includes('mappa'), false)
    assert.deepEqual(
      Object.values(with_).map((each) => each.length),
      Object.values(without).map((each) => each.length),
    )
  })

  it('leaves out what is not read, also where a group is taken apart', async (context) => {
    const page = makePage(context, {
      'src/main.ts': `import { settings as all } from 'virtual:mappa/browser'
const { visitor } = all
const { places: count, nights } = visitor, { starMapUrl } = all.visitor
console.log(count, nights.length, starMapUrl, visitor.opens)
`,
    })
    const files = Object.values(await page.build()).join('\n')
    assert.match(files, /console\.log\(12,\w+\.length,.*https:\/\/maps|maps\.fernhollow/)
    for (const unread of ['nobody reads', 'mappa', 'notice', 'visitor']) assert.ok(!files.includes(unread), unread)
  })

  it('keeps reads for a while, as texts', async (context) => {
    const main = `const { VISITOR_PLACES, MODE } = import.meta.env
console.log(process.env.VISITOR_STAR_MAP_URL, process.env.VISITOR_OPENS, process.env.NODE_ENV, VISITOR_PLACES, MODE, import.meta.env.PROD, import.meta.env.OWN)`
    const page = makePage(context, { 'src/main.ts': main })
    const config = { define: { 'import.meta.env.OWN': '"own"' }, build: { minify: false } }
    const files = await page.build(config, { inlineReads: ['process.env', 'import.meta.env'] })
    const code = Object.entries(files).find(([name]) => name.endsWith('.js'))![1]
    assert.match(
      code,
      /console\.log\("https:\/\/maps\.fernhollow\.example\/tonight", void 0, "production", .*true, "own"\)/,
    )
    assert.match(code, /"?VISITOR_PLACES"?: "12"/)
  })

  const GOOD: readonly [what: string, Omit<Attack, 'how' | 'code'>][] = [
    ['lies below a base', { config: { base: '/desk/' } }],
    ['is built in the mode of test runners, which is no stage', { config: { mode: 'test' } }],
    ['is built without keys', { options: { allowMissingPrivate: true }, files: { '.env.production.local': '' } }],
    ['may hold a private value', { main: `console.log('${LEDGER}')`, options: { allowInPage: ['DESK_LEDGER'] } }],
    [
      'has a private value that is part of a public one',
      { files: { '.env.production.local': 'DESK_KEY=slip-0123456789ab\nDESK_LEDGER=maps.fernhollow.example' } },
    ],
    [
      'has a secret that is too short',
      { main: `console.log('dome')`, files: { '.env.production.local': 'DESK_KEY=dome' } },
    ],
    [
      'has a definition in JSON',
      {
        files: {
          'settings.definition.ts': '',
          'desk.json': text({
            settings: { visitor: { starMapUrl: { kind: 'url', description: 'Star map', public: true } } },
          }),
          'src/main.ts':
            "import { settings } from 'virtual:mappa/browser'\ndocument.title = settings.visitor.starMapUrl\n",
        },
        options: { settings: 'desk.json' },
      },
    ],
    [
      'reads in a library',
      {
        files: {
          'node_modules/lens/index.js': 'console.log(import.meta.env.LENS)',
          'node_modules/lens/package.json': '{ "type": "module", "main": "index.js" }',
        },
        main: `import 'lens'`,
      },
    ],
  ]
  for (const [what, { files, main = '', config, options }] of GOOD) {
    it(what, async (context) => {
      const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}${main}\n`, ...files })
      assert.match(Object.values(await page.build(config, options)).join('\n'), /maps\.fernhollow\.example\/tonight/)
    })
  }

  it('takes its settings from where it is told, in a workspace with a root of its own', async (context) => {
    const { '.env': layer, 'index.html': html, 'src/main.ts': main, '.env.production.local': local } = PAGE_FILES
    const page = makePage(context, {
      'packages/shared/package.json': '{ "name": "shared", "type": "module" }',
      'packages/shared/desk.ts': PAGE_DEFINITION,
      'packages/shared/.env': layer!.replace('tonight', 'workspace'),
      'packages/shared/.env.production.local': local!,
      'packages/desk/package.json': '{ "name": "desk", "type": "module" }',
      'packages/desk/web/index.html': html!,
      'packages/desk/web/src/main.ts': main!,
    })
    const files = await page.build({ root: 'packages/desk/web' }, { root: '../../shared', settings: 'desk.ts' })
    assert.match(Object.values(files).join('\n'), /maps\.fernhollow\.example\/workspace/)
  })

  it('lists what can not be searched for, and says what each page load carries', async (context) => {
    const page = makePage(context, { '.env.production.local': 'DESK_KEY=dome\n' })
    symlinkSync('nowhere', join(page.root, '.env.staging.local'))
    const { said, logger } = listener()
    process.env.VISITOR_PLACES = '14'
    context.after(() => delete process.env.VISITOR_PLACES)
    const files = await page.build({ customLogger: logger, logLevel: 'info' })
    const all = said.join('\n')
    assert.match(all, /everybody can read: visitor\.starMapUrl, visitor\.places \(of the environment\), /)
    assert.match(all, /DESK_KEY: too short to be told apart/)
    assert.match(all, /SERVER_PORT: a port is too common/)
    assert.match(all, /copies of \.env\.staging\.local: it can't be read/)
    const bytes =
      '<script type="application/json" id="mappa-settings">{"visitor.notice":"","visitor.mirror":"east"}</script>'
        .length
    assert.match(all, new RegExp(`index\\.html carries ${bytes} bytes of runtime settings`))
    assert.match(files['index.html']!, /<script type="application\/json" id="mappa-settings"><\/script>/)
  })

  it('says that nobody has filled the pages that a framework makes', async (context) => {
    const page = makePage(context)
    const { said, logger } = listener()
    const config = { build: { rollupOptions: { input: join(page.root, 'src/main.ts') } } }
    await page.build({ ...config, customLogger: logger, logLevel: 'info' })
    assert.match(said.join('\n'), /notice {2}payload-without-page[\s\S]*publicPayload\(settings\)/)
  })

  it('says that patterns were not checked, in a project without the command that does', async (context) => {
    const page = makePage(context, { 'settings.definition.ts': EXPLOSIVE })
    rmSync(join(page.root, 'node_modules/mappa-cli'))
    const { said, logger } = listener()
    await page.build({ customLogger: logger, logLevel: 'info' })
    assert.match(said.join('\n'), /notice {2}patterns-not-checked[\s\S]*desk\.key, visitor\.nights[\s\S]*mappa-cli/)
  })

  it('may be rendered by a server, which has all settings when it starts', async (context) => {
    const page = makePage(context, {
      'src/server.ts': `import { settings } from 'virtual:mappa/server'
import { settings as shown } from 'virtual:mappa/browser'
console.log(settings.server.port, settings.desk.key.reveal().length, shown.visitor.places, shown.visitor.notice)
`,
    })
    const files = await page.build({ build: { ssr: 'src/server.ts' } }, { allowOtherStage: true })
    assert.ok(!Object.values(files).join('').includes('slip-'))
    writeFileSync(
      join(page.root, '.env.staging.local'),
      'DESK_KEY=0123456789\nVISITOR_NOTICE=foggy\nVISITOR_PLACES=3\nSERVER_PORT=4399\n',
    )
    const { spawnSync } = await import('node:child_process')
    const { stdout, stderr } = spawnSync(process.execPath, ['dist/server.js'], {
      cwd: page.root,
      env: { MAPPA_STAGE: 'staging' },
      encoding: 'utf8',
    })
    assert.equal(stdout, '4399 10 12 foggy\n', stderr)
  })
})

describe('a build that watches', () => {
  it('searches for the values that hold now', async (context) => {
    const later = 'slip-of-the-next-night-93ae'
    const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}console.log('${later}')\n` })
    const watcher = (await build(configOf(page.root, { build: { watch: {} } }))) as {
      on(event: 'event', listen: (event: { code: string; error?: Error }) => void): void
      close(): Promise<void>
    }
    context.after(() => watcher.close())
    const seen: string[] = []
    const end = () =>
      new Promise<string>((resolve) => {
        const look = () => {
          const found = seen.shift()
          if (found === undefined) setTimeout(look, 20)
          else resolve(found)
        }
        look()
      })
    watcher.on('event', ({ code, error }) => {
      if (code === 'END' || code === 'ERROR') seen.push(error?.message ?? code)
    })
    assert.equal(await end(), 'END')
    page.write('.env.production.local', `DESK_KEY=${later}\n`)
    const told = await end()
    assert.match(told, /value-in-page/)
    assert.ok(!told.includes(later))
  })
})

/** A definition with two patterns, one of which takes very long on some text. */
const EXPLOSIVE = PAGE_DEFINITION.replace('{ secret: true }', '{ secret: true, pattern: /^(a+)+$|^slip/ }').replace(
  "default: ['Fri', 'Sat'] }",
  "items: setting.string('A night', { pattern: /^[A-Z]/ }), default: ['Fri', 'Sat'] }",
)

describe('settings that a page can not be built with', () => {
  const WRONG: readonly [what: string, code: string, Omit<Attack, 'how' | 'code'>][] = [
    ['a value is missing', 'missing', { files: { '.env': '' } }],
    ['the definition throws', 'definition-failed', { files: { 'settings.definition.ts': "throw new Error('fog')" } }],
    ['the definition is missing', 'definition-file-missing', { options: { settings: 'dome.ts' } }],
    ['the mode is no stage', 'stage-unknown', { config: { mode: 'prodction' } }],
    ['an option is unknown', 'plugin-option-unknown', { options: { keeps: [] } as MappaOptions }],
    ['a pattern takes very long on some text', 'pattern-explosive', { files: { 'settings.definition.ts': EXPLOSIVE } }],
    ['an option is wrong', 'plugin-option-wrong', { options: { inlineReads: ['env' as never] } }],
    ['a setting may appear that is none', 'allow-in-page-wrong', { options: { allowInPage: ['DESK_LEDGR'] } }],
    [
      'a value is no data',
      'public-not-data',
      {
        files: {
          'settings.definition.ts': PAGE_DEFINITION.replace(
            "setting.integer('Places at the eyepiece', { public: true, default: 12 })",
            "setting.custom('Places', { public: true, convert: () => () => 12 })",
          ),
          '.env': `${PAGE_FILES['.env']}VISITOR_PLACES=1\n`,
        },
      },
    ],
    [
      'a private setting is read at the start',
      'read-at-needs-public',
      {
        files: {
          'settings.definition.ts': PAGE_DEFINITION.replace(
            '{ default: 4300 }',
            "{ default: 4300, readAt: 'runtime' }",
          ),
        },
      },
    ],
  ]
  for (const [what, code, { files = {}, config, options }] of WRONG) {
    it(`since ${what}`, async (context) => {
      const page = makePage(context, files)
      await assert.rejects(page.build(config, options), (error: Error) => error.message.includes(`  ${code}\n`))
    })
  }

  it('since the plugin stands there twice, or another stage is named', async (context) => {
    const page = makePage(context)
    const { default: mappa } = await import('mappa-settings/vite')
    await assert.rejects(page.build({ plugins: [mappa()] }), /plugin-twice/)
    process.env.MAPPA_STAGE = 'staging'
    context.after(() => delete process.env.MAPPA_STAGE)
    await assert.rejects(page.build(), /stage-contradicted/)
    // A framework may set the mode by itself.
    await page.build({ logLevel: 'silent' }, { stage: 'staging', allowMissingPrivate: true })
    await assert.rejects(page.build({}, { stage: 'production' }), /stage-not-option/)
  })

  it('since the configuration has loaded the settings of another stage', async (context) => {
    const page = makePage(context)
    const { definitionFromJson } = await import('mappa-settings')
    const { loadSettings } = await import('mappa-settings/node')
    const load = (stage?: string) =>
      loadSettings(
        definitionFromJson({ settings: { server: { port: { kind: 'port', description: 'Port', default: 1 } } } }),
        {
          root: page.root,
          ...(stage === undefined ? {} : { stage }),
        },
      )
    // One that is named is meant.
    load('staging')
    await page.build()
    const { NODE_ENV } = process.env
    context.after(() => (process.env.NODE_ENV = NODE_ENV))
    process.env.NODE_ENV = 'development'
    load()
    await assert.rejects(page.build(), /stage-not-mode\n.*of the stage development, .* mode of Vite is production/)
  })
})
