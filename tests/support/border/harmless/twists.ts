import type { PluginOption } from 'vite'
import { importCompat } from '../../compat.ts'
import { PAGE_DEFINITION } from '../../page-project.ts'
import type { HarmlessProject } from './project.ts'

/** What private settings are called by half of the world, and pages are full of. */
const WORDS = [
  ...['localhost', '127.0.0.1', 'postgres', 'production', 'development', 'debug', 'default', 'assets', 'admin', 'dark'],
  ...['en-GB', 'EUR', 'UTC', 'Europe/Berlin', '3000', '5432', 'true', '/', './dist', 'utf-8', 'application/json'],
  ...[
    'Bearer',
    'same-origin',
    'https',
    'no-cache',
    'button',
    'GET',
    'root',
    'main',
    'eu-central-1',
    '1h',
    'index.html',
  ],
  ...['public', 'src', 'title', '100%', '#ffffff', 'sans-serif', 'module', 'children', 'props', 'onClick', 'undefined'],
  ...['text/html', 'no-referrer', 'keydown', 'class', 'http://localhost:3000', 'template', 'constructor', 'component'],
]
const WORD_SETTINGS = WORDS.map((_, at) => `word${at}: setting.string('Word ${at}'),`).join('\n    ')
const WORD_LINES = WORDS.map((word, at) => `WORDS_WORD${at}='${word}'`).join('\n')

const legacy = async () =>
  (await importCompat<{ default: (options: unknown) => PluginOption }>('@vitejs/plugin-legacy')).default({
    targets: ['chrome 60', 'firefox 60', 'safari 11'],
  })

/** How people build what a starter gives them. */
export const TWISTS: readonly HarmlessProject[] = [
  { name: 'as it is', files: {} },
  {
    name: 'with common words as private settings',
    files: {
      'settings.definition.ts': PAGE_DEFINITION.replace(
        'visitor: {',
        `words: {\n    ${WORD_SETTINGS}\n    password: setting.string('Password of the test database', { secret: true }),\n  },\n  visitor: {`,
      ),
      '.env': `VISITOR_STAR_MAP_URL=https://maps.fernhollow.example/tonight\n${WORD_LINES}\n`,
      '.env.development.local': 'DESK_KEY=drill-9b2f6c71d0e84a35\nWORDS_PASSWORD=password\n',
      '.env.production.local': 'DESK_KEY=slip-51ce0a77b2d94f10\nWORDS_PASSWORD=slip-7a2e44f1c09b6d38\n',
    },
  },
  { name: 'for old browsers', files: {}, plugins: legacy },
  { name: 'with source maps', files: {}, config: { build: { sourcemap: true } } },
  {
    name: 'below another address, in one file',
    files: {},
    config: { base: '/visitors/', build: { manifest: true, cssCodeSplit: false, assetsInlineLimit: 100_000 } },
  },
]
