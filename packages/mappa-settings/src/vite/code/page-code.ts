import { Reporter } from '@mappa/core/problems/reporter'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { toRelativePath } from '@mappa/node/fs/places'
import { findRoot } from '@mappa/node/project/root'
import type { Plugin } from 'vite'
import { toAskPath } from '../serving/requests.ts'
import { tell } from '../serving/verdicts.ts'
import { INLINABLE, type Inlinable } from '../session/options.ts'
import { addProblems, type Session } from '../session/session.ts'
import { BROWSER, type BuiltFor, getCode, OWN_IDS, OWN_SPECIFIERS, resolveOwn } from './modules.ts'
import { narrowByText } from './narrow-by-text.ts'
import { reportUnknownReads } from './unknown-reads.ts'

/** What Vite itself has in these objects. */
const OF_VITE: Readonly<Record<Inlinable, readonly string[]>> = {
  'import.meta.env': ['MODE', 'BASE_URL', 'PROD', 'DEV', 'SSR', 'LEGACY'],
  'process.env': ['NODE_ENV'],
}

/** Gives code the virtual modules, and values in the place of reads that are kept. Pages, workers and servers need it alike. */
export function pageCode(session: Session): Plugin {
  const { inlineReads = [] } = session.options
  const objects = INLINABLE.filter((each) => each === 'import.meta.env' || inlineReads.includes(each))
  // Texts rather than patterns: every module of a page is looked through for them.
  const reads = [...objects.flatMap((each) => [each, each.replace(/\.(?=env$)/, '?.')]), 'import.meta[']
  return {
    name: 'mappa:code',
    resolveId: { filter: { id: OWN_SPECIFIERS }, handler: resolveOwn },
    load: {
      filter: { id: OWN_IDS },
      handler(id) {
        const { config } = this.environment
        if (config.consumer === 'server' && !session.state.usable) throw new SettingsError(session.state.report)
        const place = {
          server: config.consumer === 'server',
          dev: config.command === 'serve',
          built: describeBuilt(session, config.root),
        }
        // Without a map of its own, the source of a made-up module would stand in those of the page, unread values included.
        return { code: getCode(id, session.state, place), map: { mappings: '' } }
      },
    },
    transform: {
      filter: { id: { exclude: [/\/node_modules\//, OWN_IDS] }, code: reads },
      async handler(code, id) {
        const { config } = this.environment
        const { round } = session
        const { replaceReads } = await import('./env-reads.ts')
        const page = config.consumer === 'client'
        const reporter = new Reporter()
        const replaced = replaceReads(
          code,
          id,
          session.state,
          { inlineReads, known: listKnownNames(session) },
          page,
          reporter,
        )
        session.replaced.add(id)
        const { problems } = reporter
        if (problems.length === 0) return replaced as never
        // A build reports all of them when everything is read.
        if (config.command === 'build') {
          addProblems(session.violations, problems)
          return null
        }
        tell(problems, session, round)
        const { writeProblemCode: problemCode } = await import('../serving/problem-page.ts')
        return { code: problemCode(toAskPath(config)) + code, map: null }
      },
    },
  }
}

/** Keeps values that a page does not read out of its bundle, also where it takes others out of their groups. */
export function narrowing(session: Session): Plugin {
  return {
    name: 'mappa:imports',
    apply: 'build',
    transform: {
      filter: { id: { exclude: OWN_IDS }, code: BROWSER },
      async handler(code, id) {
        const settings = (session.state.definition?.settings ?? []).filter((each) => each.public)
        const narrowed = narrowByText(code, new Set(settings.map(({ path }) => path)))
        if (narrowed !== null) return { code: narrowed, map: null }
        const { narrowImports } = await import('./page-imports.ts')
        const { narrowed: parsed, unknown } = narrowImports(code, id, settings)
        const isOfPage = this.environment.config.consumer === 'client'
        if (isOfPage) addProblems(session.violations, reportUnknownReads(unknown, id, session.state))
        return parsed as never
      },
    },
  }
}

function listKnownNames({ config }: Session): Readonly<Record<Inlinable, ReadonlySet<string>>> {
  const defined = Object.keys(config?.define ?? {})
  const of = (object: Inlinable) =>
    new Set([
      ...OF_VITE[object],
      ...defined.filter((each) => each.startsWith(`${object}.`)).map((each) => each.slice(object.length + 1)),
    ])
  return { 'import.meta.env': of('import.meta.env'), 'process.env': of('process.env') }
}

/** How a server finds its layer files from where it lies, as the plugin finds them from the root of Vite. */
function describeBuilt({ options, state }: Session, viteRoot: string): BuiltFor {
  const layerDirectory = options.root === undefined ? '' : toRelativePath(findRoot(viteRoot), state.root)
  return { layerDirectory, allowOtherStage: options.allowOtherStage === true }
}
