/**
 * `mappa-settings/vite`: settings of pages, checked before anything is built or served, and the border between pages and servers.
 *
 * @module mappa-settings/vite
 */
import { resolve } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { Plugin, ResolvedConfig, UserConfig } from 'vite'
import { addressBorder } from './border/address-border.ts'
import { buildBorder } from './border/build-border.ts'
import { checkAtStart } from './code/check-at-start.ts'
import { htmlReads } from './code/html-reads.ts'
import { narrowing, pageCode } from './code/page-code.ts'
import { payloadPlaces } from './code/payload-places.ts'
import { checkLeaks } from './leaks/build-leaks.ts'
import { serveLeaks } from './leaks/serve-leaks.ts'
import { previewing } from './serving/preview.ts'
import { serving } from './serving/serve.ts'
import { writeDeclarations } from './session/declarations.ts'
import { makeAnew } from './session/made-anew.ts'
import { checkOptions, type MappaOptions } from './session/options.ts'
import { readProjectState } from './session/project-state.ts'
import { hashReport, type Session, startSession, unwatched } from './session/session.ts'
import { getWrittenOutput } from './session/written-output.ts'

export type { Inlinable, MappaOptions } from './session/options.ts'

/** No variable begins so. Vite would put those that do into pages, whatever they are. */
const NO_PREFIX = 'MAPPA_HANDS_OUT_PUBLIC_SETTINGS_ALONE_'

/**
 * The plugin for Vite. The stage is Vite's mode: development when serving, production when building, any stage with `--mode`.
 *
 * Everything is checked before a build begins, which fails with the whole report; while serving, the report stands in the place
 * of the page until it is fixed. Pages import public settings from `virtual:mappa/browser`, servers all of them from
 * `virtual:mappa/server`; page code that reaches the server side, and a page that holds a private value, fail the build.
 *
 * @throws {SettingsError} from Vite's own hooks, with everything that is wrong
 * @example
 * ```ts
 * // vite.config.ts
 * import mappa from 'mappa-settings/vite'
 * import { defineConfig } from 'vite'
 *
 * export default defineConfig({ plugins: [mappa()] })
 * ```
 */
export default function mappa(options: MappaOptions = {}): Plugin[] {
  return makeAnew(() => makeParts(startSession(options)))
}

function makeParts(session: Session): Plugin[] {
  return [
    checking(session),
    // Before all others that load modules, since it keeps some from being loaded.
    serving(session),
    pageCode(session),
    narrowing(session),
    htmlReads(session),
    ...addressBorder(session),
    buildBorder(session),
    payloadPlaces(session),
    checkAtStart(session),
    previewing(session),
    reportAtEnd(),
  ]
}

/** Reads the settings before anything else happens, and takes Vite's own reading of variables away. */
function checking(session: Session): Plugin {
  let hasChanged = false
  return {
    name: 'mappa',
    enforce: 'pre',
    async config(config, { command, isPreview, mode }) {
      beginRun(session, `${config.root ?? '.'} (${mode})`)
      try {
        session.state = await readProjectState(resolve(config.root ?? '.'), mode, session.options)
        if (command === 'build' && !session.state.usable) throw new SettingsError(session.state.report)
      } catch (error) {
        session.run = null
        throw error
      }
      if (isPreview !== true) await writeDeclarations(session)
      turnOffOwnReading(config)
      return {
        // Workers are bundled by themselves, with plugins of their own.
        worker: { plugins: () => makeWorkerParts(session) },
        optimizeDeps: {
          exclude: ['mappa-settings', 'mappa-settings/node', 'mappa-settings/preload', 'mappa-settings/browser'],
        },
      }
    },
    configResolved(config) {
      // Older versions than 6 know no environments.
      if (config.environments === undefined) {
        throw new SettingsError({ title: 'The plugin', stage: null, problems: [pageProblem('vite-too-old', {})] })
      }
      session.config = config
      // Nothing may be made behind the last search.
      ;(config.plugins as Plugin[]).push(config.command === 'build' ? checkLeaks(session) : serveLeaks(session))
      const count = config.plugins.filter(({ name }) => name === 'mappa').length
      if (count > 1) {
        throw new SettingsError({
          title: 'The plugin',
          stage: null,
          problems: [pageProblem('plugin-twice', { count })],
        })
      }
      const problems = findEscapes(config)
      if (problems.length > 0) throw new SettingsError({ title: 'The plugin', stage: null, problems })
      const { report, usable } = session.state
      if (usable && report.problems.length > 0) reportOnce(session, formatReport(report), 'warn')
      const open = (session.state.inspection?.settings ?? [])
        .filter(({ declaration }) => declaration.public)
        .map(({ declaration: { path }, origin }) =>
          origin?.layer === 'environment' ? `${path} (of the environment)` : path,
        )
      if (config.command === 'build' && open.length > 0)
        reportOnce(session, `Public settings, which everybody can read: ${open.join(', ')}`)
    },
    async buildStart() {
      if (!this.meta.watchMode || session.config?.command !== 'build') return
      hasChanged = await readAgain(session, (file) => this.addWatchFile(file))
    },
    // Some bundlers take modules whose files are the same as they were, with the values of before.
    shouldTransformCachedModule: () => hasChanged,
  } as Plugin
}

/** Says something once, however many configurations a framework makes of one build. */
function reportOnce({ config, state }: Session, text: string, level: 'info' | 'warn' = 'info'): void {
  const { told } = getWrittenOutput(state)
  if (!told.has(text)) config!.logger[level](text)
  told.add(text)
}

/**
 * Reads the settings again while a build watches files.
 *
 * @param watch has a file watched
 * @returns true where a page could see a difference
 */
async function readAgain(session: Session, watch: (file: string) => void): Promise<boolean> {
  const { state: before, config } = session
  session.state = await readProjectState(config!.root, config!.mode, session.options)
  const missed = unwatched(session)
  if (missed !== null) config!.logger.warnOnce(formatReport(missed))
  for (const file of session.state.files) watch(file)
  const { report, usable } = session.state
  if (usable) return hashReport(before) !== hashReport(session.state)
  throw new SettingsError({ ...report, problems: [...report.problems, ...(await session.findOnDisk())] })
}

/** Notes what a run of Vite works on. A configuration that was taken apart gives two runs the same plugins. */
function beginRun(session: Session, run: string): void {
  const isShared = session.run !== null && session.run !== run
  const shared = isShared ? [pageProblem('plugin-shared', { runs: [session.run!, run] })] : []
  const problems = [...shared, ...checkOptions(session.options)]
  if (problems.length > 0) throw new SettingsError({ title: 'The plugin', stage: null, problems })
  session.run = run
}

/** Files are read by Mappa alone, and variables of the process reach a page through the definition alone. */
function turnOffOwnReading(config: UserConfig): void {
  config.envDir = false
  config.envPrefix = NO_PREFIX
}

/** The same once more, when the plugins behind have had their say. */
function reportAtEnd(): Plugin {
  return { name: 'mappa:last-word', enforce: 'post', config: { order: 'post', handler: turnOffOwnReading } }
}

/** What a configuration has that would lead around the border. */
function findEscapes(config: ResolvedConfig): Problem[] {
  const prefixes = [config.envPrefix].flat()
  const problems: Problem[] = []
  if (config.envDir !== false || prefixes.some((each) => each !== NO_PREFIX))
    problems.push(pageProblem('own-reading-on', {}))
  const { bundledDev } = (config.experimental ?? {}) as { bundledDev?: unknown }
  if (config.command === 'serve' && bundledDev === true) problems.push(pageProblem('bundled-while-serving', {}))
  return problems
}

function makeWorkerParts(session: Session): Plugin[] {
  return [pageCode(session), narrowing(session), ...addressBorder(session), buildBorder(session)]
}
