import type { MappaOptions } from 'mappa-settings/vite'
import type { InlineConfig } from 'vite'
import { PAGE_DEFINITION } from '../page-project.ts'

/** Something that an honest developer might do, and that would hand out what no page may have. */
export interface Attempt {
  readonly how: string
  readonly files?: Record<string, string>
  /** Links, from their names to what they lead to. */
  readonly links?: Record<string, string>
  /** Put behind the page's own code. */
  readonly main?: string
  readonly config?: InlineConfig
  readonly options?: MappaOptions
  /** The problem that ends the build; without it, nothing is built. */
  readonly built?: string
  /** The problem in the place of the page while serving. */
  readonly served?: string
  /** The problem that keeps a server from starting. */
  readonly refused?: string
  /** Addresses that are answered with 403. */
  readonly closed?: readonly string[]
}

/** Short, so that no search for values would find them. */
export const SHORT = 'k3Y-9x'
export const LONG = 'slip-93ae77c0d1f4'
export const MOUNTED = 'door-5b1e'
export const ENV = {
  '.env.development.local': `DESK_KEY=${LONG}\nSHORT=${SHORT}\n`,
  '.env.production.local': `DESK_KEY=${LONG}\nSHORT=${SHORT}\n`,
}
const IN_DIRECTORY = {
  'settings.definition.ts': PAGE_DEFINITION.replace(/\}\)\n$/, "}, { directory: './mounted' })\n"),
  'mounted/DESK_KEY': MOUNTED,
  '.env.development.local': '',
  '.env.production.local': '',
}
const SHARED = {
  'settings.definition.ts':
    "import { defineSettings } from 'mappa-settings'\nimport { desk } from './parts/desk.ts'\nimport { visitor } from './parts/visitor.ts'\nexport default defineSettings({ desk, visitor })\n",
  'parts/desk.ts':
    "import { setting } from 'mappa-settings'\nexport const desk = { key: setting.string('Key that signs booking slips', { secret: true }) }\n",
  'parts/visitor.ts':
    "import { setting } from 'mappa-settings'\nexport const visitor = { starMapUrl: setting.url('Star map', { public: true }), places: setting.integer('Places', { public: true, default: 12 }), notice: setting.string('Line', { public: true, default: '' }) }\n",
}
const raw = (specifier: string) => `import text from '${specifier}'\nconsole.log(text)`

const IMPORTS: readonly Attempt[] = [
  ...['?raw', '?url', '?inline', '?raw&inline', '', '?import&raw', '#x?raw'].map((query) => ({
    how: `imports an env file with "${query}"`,
    main: raw(`../.env.production.local${query}`),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  })),
  {
    how: 'imports an env file for its effects',
    main: "import '../.env.production.local'",
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports it from the root',
    main: raw('/.env.development.local?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports it later',
    main: "import('../.env.development.local?raw').then(console.log)",
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports all env files at once, as texts',
    main: "console.log(import.meta.glob('../.env*', { query: '?raw', eager: true, exhaustive: true }))",
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports all env files at once, as addresses',
    main: "console.log(import.meta.glob('/.env*', { query: '?url', eager: true, exhaustive: true }))",
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports a copy of an env file',
    files: { 'config/.env.bak': `KEY=${SHORT}\n` },
    main: raw('../config/.env.bak?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports an env file under another name',
    config: { resolve: { alias: [{ find: /^@key/, replacement: '/.env.production.local' }] } },
    main: raw('@key?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports a link to an env file',
    links: { 'src/key.txt': '../.env.production.local' },
    main: raw('./key.txt?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports a link, which is kept as one',
    links: { 'src/key.txt': '../.env.production.local' },
    config: { resolve: { preserveSymlinks: true } },
    main: raw('./key.txt?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports what an env file is a link to',
    files: { '.env.production.local': '', 'own/keys': `DESK_KEY=${LONG}\nSHORT=${SHORT}\n` },
    links: { '.env.local': 'own/keys' },
    main: raw('../own/keys?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports the definition as a text',
    main: raw('../settings.definition.ts?raw'),
    built: 'definition-in-page',
    served: 'definition-in-page',
  },
  {
    how: 'imports the address of the definition',
    main: raw('../settings.definition.ts?url'),
    built: 'definition-in-page',
    served: 'definition-in-page',
  },
  {
    how: 'imports a part of the definition',
    files: SHARED,
    main: "import { desk } from '../parts/desk.ts'\nconsole.log(desk)",
    built: 'definition-in-page',
    served: 'definition-in-page',
  },
  {
    how: 'imports a part of the definition as a text',
    files: SHARED,
    main: raw('../parts/visitor.ts?raw'),
    built: 'definition-in-page',
    served: 'definition-in-page',
  },
  ...['?raw', '?url', '?inline', ''].map((query) => ({
    how: `imports a mounted secret with "${query}"`,
    files: IN_DIRECTORY,
    main: raw(`../mounted/DESK_KEY${query}`),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  })),
  {
    how: 'imports all mounted secrets at once',
    files: IN_DIRECTORY,
    main: "console.log(import.meta.glob('../mounted/*', { query: '?raw', eager: true }))",
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports a mounted secret from the directory that it is a link to',
    files: {
      ...IN_DIRECTORY,
      'mounted/DESK_KEY': '',
      'data/DESK_KEY': MOUNTED,
      'settings.definition.ts': IN_DIRECTORY['settings.definition.ts'].replace('mounted', 'linked'),
    },
    links: { linked: 'data' },
    main: raw('../data/DESK_KEY?raw'),
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports an env file into styles',
    files: { 'src/desk.css': "@import '../.env.production.local';\n" },
    main: "import './desk.css'",
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'imports an env file into styles by url()',
    files: { 'src/desk.css': '@import url("../.env.development.local");\n' },
    main: "import './desk.css'",
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'imports an env file in a script of the page',
    files: {
      'index.html': '<script type="module">import key from \'./.env.production.local?raw\'; console.log(key)</script>',
    },
    built: 'env-file-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'has the definition as a script',
    files: { 'index.html': '<script type="module" src="/settings.definition.ts"></script>' },
    built: 'definition-in-page',
    served: 'entry-in-page',
    closed: ['/settings.definition.ts'],
  },
  {
    how: 'has an env file as a script',
    files: { 'index.html': '<script src="/.env.production.local"></script>' },
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has the definition as an entry',
    config: { build: { rollupOptions: { input: '<root>/settings.definition.ts' } } },
    built: 'entry-in-page',
  },
  {
    how: 'has a part of the definition as an entry',
    files: SHARED,
    config: { build: { rollupOptions: { input: ['<root>/index.html', '<root>/parts/desk.ts'] } } },
    built: 'entry-in-page',
  },
  {
    how: 'has the definition as a library',
    config: { build: { lib: { entry: 'settings.definition.ts', formats: ['es'], fileName: 'desk' } } },
    built: 'entry-in-page',
  },
  {
    how: 'warms the definition up',
    config: { server: { warmup: { clientFiles: ['./settings.definition.ts', './.env.development.local'] } } },
    closed: ['/settings.definition.ts', '/.env.development.local'],
  },
  {
    how: 'imports an env file that is marked to be ignored',
    main: "import(/* @vite-ignore */ '/.env.development.local?raw').then(console.log)",
    closed: ['/.env.development.local?raw', '/.env.development.local?import&raw'],
  },
]

const ADDRESSES: readonly Attempt[] = [
  {
    how: 'points to an env file in code',
    main: "console.log(new URL('../.env.production.local', import.meta.url).href)",
    built: 'address-in-page',
    served: 'address-in-page',
    closed: ['/.env.production.local'],
  },
  {
    how: 'points to a mounted secret in code',
    files: IN_DIRECTORY,
    main: "console.log(new URL('../mounted/DESK_KEY', import.meta.url).href)",
    built: 'address-in-page',
    served: 'address-in-page',
    closed: ['/mounted/DESK_KEY'],
  },
  {
    how: 'points to the definition in code',
    main: "console.log(new URL('../settings.definition.ts', import.meta.url).href)",
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'points to a part of the definition in code',
    files: SHARED,
    main: "console.log(new URL('../parts/desk.ts', import.meta.url).href)",
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has an env file for a picture',
    files: { 'index.html': '<img src="./.env.production.local"><script type="module" src="/src/main.ts"></script>' },
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has an env file for an icon',
    files: {
      'index.html': '<link rel="icon" href="/.env.production.local"><script type="module" src="/src/main.ts"></script>',
    },
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has a mounted secret for a picture',
    files: {
      ...IN_DIRECTORY,
      'index.html': '<img src="/mounted/DESK_KEY"><script type="module" src="/src/main.ts"></script>',
    },
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has an env file for a background',
    files: { 'src/desk.css': 'h1 { background: url(../.env.production.local) }\n' },
    main: "import './desk.css'",
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'has an env file for a background in the page',
    files: {
      'index.html':
        '<style>h1 { background: url("./.env.production.local") }</style><script type="module" src="/src/main.ts"></script>',
    },
    built: 'address-in-page',
    served: 'address-in-page',
  },
  {
    how: 'copies an env file beside the page',
    files: { 'public/.env': `API_KEY=${SHORT}\n` },
    built: 'env-file-served',
    closed: ['/.env'],
  },
  {
    how: 'copies an env file under another name beside the page',
    files: { 'public/notes.txt': ENV['.env.production.local'] },
    built: 'env-file-served',
  },
  {
    how: 'has a link to an env file beside the page',
    links: { 'public/notes.txt': '../.env.production.local' },
    built: 'env-file-served',
    closed: ['/notes.txt'],
  },
  {
    how: 'serves the project as it is',
    config: { publicDir: '.' },
    built: 'env-file-served',
    closed: ['/.env.development.local', '/settings.definition.ts'],
  },
  {
    how: 'serves mounted secrets as they are',
    files: IN_DIRECTORY,
    config: { publicDir: 'mounted' },
    built: 'env-file-served',
    closed: ['/DESK_KEY'],
  },
  ...(['strict', 'deny'] as const).map((each) => ({
    how: `opens its files by ${each}`,
    files: { ...IN_DIRECTORY, '.env.development.local': `SHORT=${SHORT}\n` },
    config: { server: { fs: each === 'strict' ? { strict: false } : { deny: ['*.crt'], allow: ['..'] } } },
    closed: [
      '/.env.development.local',
      '//.env.development.local',
      '/./.env.development.local',
      '/src/../.env.development.local',
      '/%2eenv.development.local',
      '/%252eenv.development.local',
      '/.env%2edevelopment%2elocal',
      '/src/%2e%2e/.env.development.local',
      '/.env.development.local?raw',
      '/.env.development.local?url',
      '/.env.development.local?import&raw',
      '/.env.development.local/',
      '/.env.development.local%00',
      '/.env.development.local.',
      '/.env.development.local::$DATA',
      '/@fs<root>/.env.development.local',
      '/@fs/<root>/.env.development.local?raw',
      '/@fs<root>/src/../.env.development.local',
      '/@id/<root>/.env.development.local',
      '/@id/__x00__<root>/.env.development.local?raw',
      '/<root>/.env.development.local',
      '/src\\..\\.env.development.local',
      '/.ENV.development.local',
      '/mounted/DESK_KEY',
      '/mounted//DESK_KEY',
      '/mounted/%44ESK_KEY',
      '/@fs<root>/mounted/DESK_KEY?import&raw',
      '/settings.definition.ts',
      '/settings.definition.ts?raw',
      '/settings%2edefinition.ts?url',
    ],
  })),
  {
    how: 'lies below a base',
    config: { base: '/desk/' },
    closed: [
      '/desk/.env.development.local',
      '/.env.development.local',
      '/desk//.env.development.local?raw',
      '/desk/@fs<root>/.env.development.local',
    ],
  },
]

const both = (code: string) => ({ built: code, served: code })
const inPage = (markup: string) => ({ 'index.html': `${markup}<script type="module" src="/src/main.ts"></script>` })

const MORE: readonly Attempt[] = [
  {
    how: 'imports an env file by its absolute path',
    main: '',
    ...both('env-file-in-page'),
    files: { 'src/main.ts': "import text from '/@fs<root>/.env.production.local?raw'\nconsole.log(text)\n" },
  },
  {
    how: 'imports a file that a template names',
    main: 'const stage = document.title\nconsole.log(new URL(`../.env.${stage}.local`, import.meta.url).href)',
    ...both('address-in-page'),
  },
  {
    how: 'imports an area that a template names',
    files: { 'src/areas/moon.ts': "import key from '../../.env.production.local?raw'\nexport default key\n" },
    main: 'const area = document.title\nimport(`./areas/${area}.ts`).then(console.log)',
    built: 'env-file-in-page',
  },
  {
    how: 'takes env files for assets',
    config: { assetsInclude: ['**/.env*'] },
    main: "import key from '../.env.production.local'\nconsole.log(key)",
    ...both('env-file-in-page'),
  },
  {
    how: 'imports an env file in a worker',
    files: { 'src/work.ts': raw('../.env.production.local?raw') },
    main: "new Worker(new URL('./work.ts', import.meta.url), { type: 'module' })",
    config: { worker: { format: 'es' } },
    built: 'env-file-in-page',
  },
  {
    how: 'imports an env file for a worker',
    main: "import Work from '../.env.production.local?worker'\nnew Work()",
    built: 'env-file-in-page|entry-in-page',
    served: 'env-file-in-page',
  },
  {
    how: 'imports an env file of another package',
    files: { 'packages/api/.env': `KEY=${SHORT}\n` },
    main: raw('../packages/api/.env?raw'),
    ...both('env-file-in-page'),
  },
  {
    how: 'imports an env file that ends in .json',
    files: { '.env.json': `{ "key": "${SHORT}" }` },
    main: raw('../.env.json'),
    ...both('env-file-in-page'),
  },
  {
    how: 'has an env file for styles',
    files: inPage('<link rel="stylesheet" href="/.env.production.local">'),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file in a frame',
    files: inPage('<iframe src="./.env.production.local"></iframe>'),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file for an object',
    files: inPage('<object data="/.env.production.local"></object>'),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file for one of several pictures',
    files: inPage('<img srcset="/moon.png 1x, /.env.production.local 2x">'),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file for the picture of a film',
    files: inPage("<video poster='/.env.production.local'></video>"),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file in a style of an element',
    files: inPage('<p style="background: url(/.env.production.local)"></p>'),
    ...both('address-in-page'),
  },
  {
    how: 'has an env file in a set of pictures of styles',
    files: { 'src/desk.css': 'h1 { background: image-set("../.env.production.local" 1x) }\n' },
    main: "import './desk.css'",
    ...both('address-in-page'),
  },
  {
    how: 'composes styles from an env file',
    files: { 'src/desk.module.css': '.a { composes: b from "../.env.production.local" }\n' },
    main: "import './desk.module.css'",
    ...both('address-in-page'),
  },
  {
    how: 'has an env file as an attribute of a made-up element',
    files: inPage('<night-sky data-map="/.env.production.local"></night-sky>'),
    closed: ['/.env.production.local'],
  },
  {
    how: 'fetches an env file when the page runs',
    main: "fetch('/.env.development.local').then(console.log)",
    closed: ['/.env.development.local'],
  },
  {
    how: 'serves data with a secret in it',
    files: { 'src/keys.json': `{ "key": "${LONG}" }` },
    main: "console.log(new URL('./keys.json', import.meta.url).href)",
    ...both('value-in-page'),
    config: { build: { assetsInlineLimit: 0 } },
  },
  {
    how: 'serves notes with a secret in them',
    files: { 'public/notes.txt': `the key is ${LONG}\n` },
    ...both('value-in-page'),
  },
  {
    how: 'has a secret in a worker',
    files: { 'src/work.ts': `postMessage('${LONG}')\n` },
    main: "new Worker(new URL('./work.ts', import.meta.url), { type: 'module' })",
    config: { worker: { format: 'es' } },
    ...both('value-in-page'),
  },
  {
    how: 'has a plugin that makes a module of a secret',
    main: "import key from 'virtual:own'\nconsole.log(key)",
    config: {
      plugins: [
        {
          name: 'own',
          resolveId: (id) => (id === 'virtual:own' ? '\0own' : null),
          load: (id) => (id === '\0own' ? `export default '${LONG}'` : null),
        },
      ],
    },
    ...both('value-in-page'),
  },
  {
    how: 'has a plugin that puts a secret into the page',
    config: {
      plugins: [
        {
          name: 'own',
          enforce: 'post',
          transformIndexHtml: {
            order: 'post',
            handler: (html: string) => html.replace('<head>', `<head><meta name="key" content="${LONG}">`),
          },
        },
      ],
    },
    ...both('value-in-page'),
  },
  {
    how: 'defines a variable that bundlers replace',
    main: 'console.log(import.meta.env.OWN)',
    config: { define: { 'import.meta.env.OWN': JSON.stringify(LONG) } },
    ...both('value-in-page'),
  },
  {
    how: 'has a secret in styles',
    files: { 'src/desk.css': `h1::after { content: "${LONG}" }\n` },
    main: "import './desk.css'",
    ...both('value-in-page'),
  },
  {
    how: 'has a secret in a script of the page',
    files: {
      'index.html': `<script>window.key = '${LONG}'</script><script type="module" src="/src/main.ts"></script>`,
    },
    ...both('value-in-page'),
  },
  {
    how: 'has a secret in a module of the page',
    files: { 'index.html': `<script type="module">console.log('${LONG}')</script>` },
    ...both('value-in-page'),
  },
  {
    how: 'imports data with a secret in it',
    files: { 'src/keys.json': `{ "key": "${LONG}" }` },
    main: "import keys from './keys.json'\nconsole.log(keys)",
    ...both('value-in-page'),
  },
  {
    how: 'imports data as text with a secret in it',
    files: { 'src/keys.txt': `key ${LONG}` },
    main: raw('./keys.txt?raw'),
    ...both('value-in-page'),
  },
  {
    how: 'has a secret in a second page',
    files: { 'night.html': `<p>${LONG}</p>` },
    config: { build: { rollupOptions: { input: ['<root>/index.html', '<root>/night.html'] } } },
    built: 'value-in-page',
  },
  {
    how: 'has a secret in a library',
    files: { 'src/lib.ts': `export const key = '${LONG}'\n` },
    config: { build: { lib: { entry: 'src/lib.ts', formats: ['es', 'cjs'], fileName: 'desk' } } },
    built: 'value-in-page',
  },
  {
    how: 'bundles while it serves',
    config: { experimental: { bundledDev: true } as never },
    refused: 'bundled-while-serving',
  },
]

/** All of them, by what they have in common. */
export const ATTEMPTS = Object.entries({
  'a page that imports': IMPORTS,
  'a page that points to files': ADDRESSES,
  'a page that': MORE,
})
