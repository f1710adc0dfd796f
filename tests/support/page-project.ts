import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { TestContext } from 'node:test'
import mappa, { type MappaOptions } from 'mappa-settings/vite'
import { build, type InlineConfig } from 'vite'
import { makeProject, type Project } from './project.ts'

/** A secret with everything in it that has to be escaped somewhere. */
export const KEY = `slip-"7'&<b>\\4%2B=ü/e9c1a0d4+f6`
/** A setting that is neither secret nor public. */
export const LEDGER = '/srv/fernhollow/ledger-77.txt'

/** Everything that a page of the observatory can need, in all its kinds. */
export const PAGE_DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  server: { port: setting.port('Port of the desk', { default: 4300 }) },
  desk: {
    key: setting.string('Key that signs booking slips', { secret: true }),
    ledger: setting.path('Where bookings are written down', { optional: true }),
  },
  visitor: {
    starMapUrl: setting.url('Where visitors find the star map', { public: true }),
    places: setting.integer('Places at the eyepiece', { public: true, default: 12 }),
    opens: setting.dateTime('When the dome opens', { public: true, optional: true }),
    nights: setting.list('Nights on which it is open', { public: true, default: ['Fri', 'Sat'] }),
    unread: setting.string('What no page reads', { public: true, default: 'nobody reads this text' }),
    notice: setting.string('Line on top of the page', { public: true, readAt: 'runtime', default: '' }),
    closes: setting.dateTime('When the dome closes', { public: true, readAt: 'runtime', optional: true }),
    mirror: setting.choice('Which mirror is in use', { public: true, readAt: 'runtime', enum: ['east', 'west'], default: 'east' }),
  },
})
`

const quoted = KEY.replace(/["\\$`]/g, '\\$&')

/** The files of a page that shows its public settings as one line. */
export const PAGE_FILES: Readonly<Record<string, string>> = {
  'settings.definition.ts': PAGE_DEFINITION,
  '.env': 'VISITOR_STAR_MAP_URL=https://maps.fernhollow.example/tonight\n',
  '.env.development.local': 'DESK_KEY=drill-9b2f6c71d0e84a35\n',
  '.env.production.local': `DESK_KEY="${quoted}"\nDESK_LEDGER=${LEDGER}\n`,
  'index.html':
    '<!doctype html><html><head><link rel="icon" href="data:,"></head><body><h1></h1><script type="module" src="/src/main.ts"></script></body></html>\n',
  'src/main.ts': `import { settings } from 'virtual:mappa/browser'
document.querySelector('h1')!.textContent =
  [settings.visitor.starMapUrl, settings.visitor.places, settings.visitor.notice].join(' | ')
`,
}

/** A project with a page, and a way to build it. */
export interface PageProject extends Project {
  /** Builds the page and returns everything that was written, by name. */
  readonly build: (config?: InlineConfig, options?: MappaOptions) => Promise<Record<string, string>>
}

/** Makes a project of the files above and others. */
export function makePage(
  context: Pick<TestContext, 'after'>,
  files: Record<string, string | Uint8Array> = {},
  vite: Pick<typeof import('vite'), 'build'> = { build },
): PageProject {
  const project = makeProject(context, { ...PAGE_FILES, ...files })
  return {
    ...project,
    async build(config = {}, options = {}) {
      await vite.build(configOf(project.root, config, options))
      return filesIn(join(project.root, config.root ?? '', 'dist'))
    },
  }
}

/** The configuration of Vite for a project, with the plugin. */
export function configOf(root: string, config: InlineConfig = {}, options: MappaOptions = {}): InlineConfig {
  const plugins = [mappa(options), ...(config.plugins ?? [])]
  return { configFile: false, logLevel: 'silent', ...config, root: join(root, config.root ?? ''), plugins }
}

/** The texts of all files below a directory. */
export function filesIn(directory: string): Record<string, string> {
  const names = readdirSync(directory, { recursive: true, withFileTypes: true }).filter((each) => each.isFile())
  return Object.fromEntries(
    names.map((each) => {
      const file = join(each.parentPath, each.name)
      return [file.slice(directory.length + 1), readFileSync(file, 'utf8')]
    }),
  )
}
