import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { listPackages } from '../../project/manifest.ts'

/** A file that a framework needs, and what stands in it. */
export interface FrameworkFile {
  /** Relative to the root. */
  readonly file: string
  readonly text: string
}

/** What a framework needs to load settings in the right place. */
export interface Framework {
  readonly title: string
  /** Files that are written where there are none. */
  readonly files: readonly FrameworkFile[]
  /** The module from which server code imports settings. */
  readonly module: string
  /** True where pages are built by Vite, and the plugin stands in its configuration. */
  readonly hasViteConfig: boolean
  /** What is left to do by hand. */
  readonly steps: readonly string[]
}

/** What a framework is recognized by, and what it needs. */
interface Recipe {
  /** The package that a project depends on. */
  readonly of: string
  readonly title: string
  readonly hasViteConfig?: true
  readonly plan: (place: Place) => Pick<Framework, 'files' | 'module' | 'steps'>
}

/** Where things are in a project. */
interface Place {
  readonly has: (file: string) => boolean
  /** How a file imports the definition. */
  readonly getSpecifier: (file: string) => string
  /** The ending of new modules. */
  readonly ending: string
}

const load = (definition: string, options: readonly string[]) => `import { loadSettings } from 'mappa-settings/node'
import definition from '${definition}'

export const settings = loadSettings(definition, { ${options.join(', ')} })
`
const OF_BUILD = ['buildStage: process.env.MAPPA_BUILD_STAGE', "onErrors: 'exit'"]
const TABLE = "import { publicReplacements } from 'mappa-settings/bundler'"
const PLUGIN = "import mappa from 'mappa-settings/vite'"
const WITH_STAGE = 'mappa({ stage: process.env.MAPPA_STAGE })'

const RECIPES: readonly Recipe[] = [
  {
    of: 'next',
    title: 'Next.js',
    plan({ has, getSpecifier, ending }) {
      const base = has('src/app') || has('src/pages') ? 'src/' : ''
      const module = `${base}settings.${ending}`
      const instrumentation = `/** Next.js calls this once, before it answers requests. */
export async function register() {
  if (process.env.NEXT_RUNTIME === 'nodejs') await import('./settings')
}
`
      return {
        module,
        files: [
          { file: module, text: load(getSpecifier(module), OF_BUILD) },
          { file: `${base}instrumentation.${ending}`, text: instrumentation },
        ],
        steps: [
          `In next.config: ${TABLE}, and compiler: { define: publicReplacements(import.meta.dirname, { objects: ['process.env'], quoted: false }) }`,
          'In package.json, search what is built: "build": "next build && mappa guard .next"',
        ],
      }
    },
  },
  {
    of: 'nuxt',
    title: 'Nuxt',
    plan({ getSpecifier }) {
      const module = 'server/settings.ts'
      return {
        module,
        files: [
          { file: module, text: load(getSpecifier(module), ['root: import.meta.url', ...OF_BUILD]) },
          {
            file: 'server/plugins/settings.ts',
            text: "import '../settings'\n\n/** Nitro loads its plugins before the server listens. */\nexport default defineNitroPlugin(() => {})\n",
          },
        ],
        steps: [
          `In nuxt.config: ${PLUGIN}, and vite: { plugins: [${WITH_STAGE}] }`,
          `There as well: ${TABLE}, and nitro: { replace: publicReplacements(import.meta.dirname, { objects: ['process.env'] }) }`,
        ],
      }
    },
  },
  {
    of: '@sveltejs/kit',
    title: 'SvelteKit',
    hasViteConfig: true,
    plan({ ending }) {
      const [type, mask] = ending === 'ts' ? [': unknown', ': string'] : ['', '']
      const text = `import { Secret } from 'mappa-settings'

/** A secret that gets into the data of a page by mistake is a mask there. */
export const transport = {
  Secret: { encode: (value${type}) => value instanceof Secret && String(value), decode: (mask${mask}) => mask },
}
`
      return { module: 'virtual:mappa/server', files: [{ file: `src/hooks.${ending}`, text }], steps: [] }
    },
  },
  {
    of: '@react-router/dev',
    title: 'React Router',
    hasViteConfig: true,
    plan({ ending }) {
      const module = `app/settings.server.${ending}`
      return { module, files: [{ file: module, text: "export { settings } from 'virtual:mappa/server'\n" }], steps: [] }
    },
  },
  {
    of: 'astro',
    title: 'Astro',
    plan: () => ({
      module: 'virtual:mappa/server',
      files: [],
      steps: [`In astro.config: ${PLUGIN}, and vite: { plugins: [${WITH_STAGE}] }`],
    }),
  },
]

/**
 * Recognizes the framework of a project by what it depends on.
 *
 * @param definition the file of the definition, relative to the root
 * @returns `null` for a project without one, and for servers that need nothing but the module that loads settings
 */
export function findFramework(root: string, definition: string): Framework | null {
  const packages = listPackages(root)
  const recipe = RECIPES.find(({ of }) => of in packages)
  if (recipe === undefined) return null
  const place: Place = {
    has: (file) => fs.existsSync(path.join(root, file)),
    getSpecifier(file) {
      const inner = toRelativePath(path.dirname(path.join(root, file)), path.join(root, definition))
      return (inner.startsWith('.') ? inner : `./${inner}`).replace(/\.[cm]?[jt]s$/, '')
    },
    ending: 'typescript' in packages || fs.existsSync(path.join(root, 'tsconfig.json')) ? 'ts' : 'js',
  }
  return { title: recipe.title, hasViteConfig: recipe.hasViteConfig === true, ...recipe.plan(place) }
}
