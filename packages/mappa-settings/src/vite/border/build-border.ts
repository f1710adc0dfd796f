import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import type { Plugin } from 'vite'
import { BROWSER } from '../code/modules.ts'
import { reportUnknownRead } from '../code/unknown-reads.ts'
import { addProblems, type Session, toPageError } from '../session/session.ts'
import { type Forbidden, offLimits } from './off-limits.ts'
import { writeEmptyModule, writeExports } from './stand-ins.ts'

/** Holds the border in a build: fails where page code reaches the server side, or reads a public setting that is none. */
export function buildBorder(session: Session): Plugin {
  return {
    name: 'mappa:border',
    apply: 'build',
    buildApp: {
      order: 'pre',
      // The bundler wraps an error into one of its own, with a stack of its own. The report alone is what somebody should read.
      async handler(builder) {
        const { build } = builder
        builder.build = (environment) =>
          build(environment).catch((error: unknown) => {
            throw unwrapReport(error) ?? error
          })
      },
    },
    onLog(_level, log) {
      const missing = log.code === 'IMPORT_IS_UNDEFINED' ? reportUnknownSetting(log.message, session) : null
      if (missing === null) return
      const file = log.id?.slice(session.state.root.length + 1) ?? null
      const place = { file, line: log.loc?.line ?? null, column: log.loc === undefined ? null : log.loc.column + 1 }
      // What page code reads by its name is known before anything is written.
      const isKnown = session.violations.some(({ setting }) => setting === missing.setting)
      if (!isKnown) addProblems(session.violations, [{ ...missing, ...place }])
      return false
    },
    load: {
      order: 'pre',
      // Asked for when the settings are known.
      get filter() {
        return keepsLinks(session) ? {} : { id: offLimits(session.state).pattern }
      },
      async handler(id) {
        // What others would make of it could hold its lines, errors included. The build ends as soon as all modules are known.
        const isOfPage = this.environment.config.consumer === 'client'
        const forbidden = isOfPage ? offLimits(session.state).module(id, keepsLinks(session)) : null
        if (forbidden?.code === 'env-file-in-page') return writeEmptyModule(id)
        return forbidden?.target.startsWith('mappa-settings/') === true ? writeExports(forbidden) : null
      },
    },
    async buildEnd(error) {
      if (error !== undefined || this.environment.config.consumer !== 'client') return
      for (const id of this.getModuleIds()) {
        const forbidden = offLimits(session.state).module(id, keepsLinks(session))
        if (forbidden !== null) addProblems(session.violations, await explainViolations(forbidden, id, this, session))
      }
      await mustHold(session)
    },
    // The bundler reports names that do not exist when it has written everything.
    closeBundle: () => mustHold(session),
  }
}

/** @throws with all violations, and with what stands on the disk from before, since nothing is written over it now */
async function mustHold(session: Session): Promise<void> {
  const violations = session.violations.splice(0)
  if (violations.length > 0) throw toPageError([...violations, ...(await session.findOnDisk())], session)
}

/** What to say about a module that no page may have: one problem for each module of a page that imports it. */
async function explainViolations(
  forbidden: Forbidden,
  id: string,
  context: PluginContext,
  session: Session,
): Promise<readonly Problem[]> {
  const graph = {
    importersOf: (each: string) => {
      const module = context.getModuleInfo(each)
      return module === null ? [] : [...module.importers, ...module.dynamicImporters]
    },
    resolve: async (specifier: string, importer: string) => (await context.resolve(specifier, importer))?.id ?? null,
  }
  const problems: Problem[] = []
  if (context.getModuleInfo(id)?.isEntry === true)
    problems.push(pageProblem('entry-in-page', { target: forbidden.target }))
  const { explainViolation: violation } = await import('./violation.ts')
  for (const importer of graph.importersOf(id)) {
    // What the server side itself imports is reported by whoever imports that.
    if (offLimits(session.state).module(importer, keepsLinks(session)) !== null) continue
    problems.push(await violation(forbidden, id, importer, graph, session.state))
  }
  return problems
}

type PluginContext = ThisParameterType<Extract<NonNullable<Plugin['buildEnd']>, (...words: never) => unknown>>

/** True where Vite takes links for files of their own. */
export function keepsLinks({ config }: Session): boolean {
  return config?.resolve.preserveSymlinks === true
}

/** The error with a report that others have wrapped, also twice, as that of a worker. */
function unwrapReport(error: unknown): unknown {
  if (isSettingsError(error)) return error
  const { errors = [] } = (error ?? {}) as { errors?: readonly unknown[] }
  return errors.map(unwrapReport).find((each) => each !== undefined)
}

/** A problem for a name that a group of public settings lacks, from what the bundler says of it. */
function reportUnknownSetting(message: string, { state }: Session): Problem | null {
  const match = new RegExp(`Import \`(\\w+)\`.*'\\0?${BROWSER}/settings\\.?([\\w.]*)'`, 's').exec(
    message.replace('\\0', '\0'),
  )
  if (match === null) return null
  const [, name, group] = match
  const asked = group === '' ? name! : `${group}.${name}`
  return reportUnknownRead(asked, state, {})
}
