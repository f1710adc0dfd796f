import type { IncomingMessage } from 'node:http'
import { resolve } from 'node:path'
import type { Problem } from '@mappa/core/problems/problem'
import { formatReport, type Report } from '@mappa/core/problems/report'
import { type StopWatching, watchFiles } from '@mappa/node/fs/watch-files'
import type { Connect, DevEnvironment, Plugin, ViteDevServer } from 'vite'
import { type Forbidden, type OffLimits, offLimits } from '../border/off-limits.ts'
import { writeEmptyModule, writeExports } from '../border/stand-ins.ts'
import { OWN_IDS } from '../code/modules.ts'
import { type ProjectState, readProjectState } from '../session/project-state.ts'
import { findObstacles, hashReport, listRefusals, type Session, unwatched } from '../session/session.ts'
import { closedFiles } from './closed-files.ts'
import { isPageRequest, toAskPath } from './requests.ts'
import { forgetRequested, noticeChanges, reload, takeBack, tell, tellRequested } from './verdicts.ts'

/**
 * Looks after the settings while Vite serves: shows what is wrong in the place of the page, takes in changed layers and
 * definitions without a restart, and holds the border.
 */
export function serving(session: Session): Plugin {
  const rereading = new Rereading(session)
  return {
    name: 'mappa:serve',
    apply: (_config, { command, isPreview }) => command === 'serve' && isPreview !== true,
    configureServer(server) {
      const { logger } = server.config
      const report = findObstacles(session)
      if (report !== null) logger.error(formatReport(report))
      const missed = unwatched(session)
      if (missed !== null) logger.warn(formatReport(missed))
      rereading.start(server)
      session.reload = () => reload(server, session)
      server.watcher.on('all', (_event, file) => takeBack(file, server, session))
      server.middlewares.use(closedFiles(session, server))
      server.middlewares.use(answerPages(session, server))
    },
    load: {
      order: 'pre',
      async handler(id) {
        const environment = this.environment as DevEnvironment
        if (environment.config.consumer !== 'client') return
        const limits = offLimits(session.state)
        const forbidden = limits.module(id, session.config!.resolve.preserveSymlinks)
        if (forbidden === null) return
        const { round } = session
        session.replaced.add(id)
        const resolve = async (specifier: string, importer: string) =>
          (await this.resolve(specifier, importer))?.id ?? null
        const violations = await explainViolations(forbidden, id, {
          environment,
          resolve,
          limits,
          state: session.state,
        })
        if (violations === null) tellRequested(forbidden.target, session)
        else tell(violations, session, round)
        return writeRefused(forbidden, id, environment, session)
      },
    },
    transform: {
      order: 'pre',
      async handler(code, id) {
        // Nothing of a page runs while its settings are wrong.
        if (this.environment.config.consumer !== 'client' || !OWN_IDS.test(id) || session.state.usable) return
        const { writeProblemCode } = await import('./problem-page.ts')
        return { code: writeProblemCode(toAskPath(session.config!)) + code, map: null }
      },
    },
    buildEnd() {
      rereading.end()
      session.run = null
    },
  }
}

/** What stands in the place of a module that no page may have. */
async function writeRefused(
  forbidden: Forbidden,
  id: string,
  environment: DevEnvironment,
  { config }: Session,
): Promise<string> {
  // In another language nothing can show the problem page, so the page is reloaded.
  if (!writeEmptyModule(id).startsWith('export')) {
    environment.hot.send({ type: 'full-reload' })
    return writeEmptyModule(id)
  }
  const { writeProblemCode } = await import('./problem-page.ts')
  return `${writeProblemCode(toAskPath(config!))}${await writeExports(forbidden)}`
}

/** Reads the settings again when one of their files changes, as long as a server runs. */
class Rereading {
  readonly #session: Session
  #stop: StopWatching = () => {}
  /** Counts the looks, so that one that took longer does not undo a later one. */
  #looks = 0
  #hasEnded = false

  constructor(session: Session) {
    this.#session = session
  }

  start(server: ViteDevServer): void {
    this.#stop = watch(this.#session.state, () => this.#reread(server))
  }

  end(): void {
    this.#hasEnded = true
    this.#stop()
  }

  async #reread(server: ViteDevServer): Promise<void> {
    const session = this.#session
    this.#looks += 1
    const own = this.#looks
    const { root, mode } = server.config
    const found = await readProjectState(root, mode, session.options)
    if (own !== this.#looks || this.#hasEnded) return
    const before = session.state
    session.state = found
    this.#stop()
    this.start(server)
    if (hashReport(before) === hashReport(found)) return
    tellOfChange(before, session, server)
    await session.searchServed()
    reload(server, session)
  }
}

/** Answers requests for pages while something is wrong, and those that ask what that is. */
function answerPages(session: Session, server: ViteDevServer): Connect.NextHandleFunction {
  return async (request, response, next) => {
    const found = findProblems(request, server, session)
    if (found !== null) {
      const { answerProblems } = await import('./problem-page.ts')
      answerProblems(response, found, `${getOrigin(request)}${toAskPath(server.config)}`)
    } else if (asksForProblems(request)) response.writeHead(204).end()
    else next()
  }
}

/** True if a page asks what is wrong. Vite may have taken the base away already. */
function asksForProblems({ url }: IncomingMessage): boolean {
  return url?.endsWith('/@mappa/problems') === true
}

/** What a request is answered with in the place of what it asks for; `null` if nothing is wrong. */
function findProblems(request: IncomingMessage, server: ViteDevServer, session: Session): Report | null {
  const asked = asksForProblems(request)
  if (!asked && !isPageRequest(request)) return null
  noticeChanges(server, session)
  if (asked) return listRefusals(session)
  forgetRequested(server, session)
  return findObstacles(session)
}

/** The address of this server, for a page that may have come from another; empty where the request names none that can be. */
function getOrigin({ headers, socket }: IncomingMessage): string {
  const origin = `${'encrypted' in socket ? 'https' : 'http'}://${headers.host ?? 'localhost'}`
  return URL.canParse(origin) ? origin : ''
}

/** What modules there are, and which of them no page may have. */
interface Surroundings {
  readonly environment: DevEnvironment
  readonly resolve: (specifier: string, importer: string) => Promise<string | null>
  readonly limits: OffLimits
  readonly state: ProjectState
}

/** A problem for each module of a page that imports what no page may have; `null` where none is known to. */
async function explainViolations(
  forbidden: Forbidden,
  id: string,
  { environment, resolve, limits, state }: Surroundings,
): Promise<readonly Problem[] | null> {
  const { moduleGraph } = environment
  const graph = {
    importersOf: (each: string) =>
      [...(moduleGraph.getModuleById(each)?.importers ?? [])].flatMap((one) => one.id ?? []),
    resolve,
  }
  // A module may be asked for before Vite has noted who imports it.
  for (let wait = 0; wait < 10 && graph.importersOf(id).length === 0; wait++)
    await new Promise((done) => setTimeout(done, 10))
  if (graph.importersOf(id).length === 0) return null
  await renewImporters(id, environment)
  const importers = graph.importersOf(id)
  const { explainViolation: violation } = await import('../border/violation.ts')
  const outer = importers.filter((each) => limits.module(each) === null)
  return Promise.all(outer.map((each) => violation(forbidden, id, each, graph, state)))
}

/** How long to wait for a module to be made, in milliseconds. */
const RENEWAL_MS = 1000

/** Has modules made again whose files have changed: a page that is still open asks for what they imported before. */
async function renewImporters(id: string, environment: DevEnvironment): Promise<void> {
  const importers = [...(environment.moduleGraph.getModuleById(id)?.importers ?? [])]
  const outdated = importers.filter(({ transformResult }) => transformResult === null)
  const renewed = outdated.map(({ url }) => environment.transformRequest(url).catch(() => null))
  // One that is being made for the first time may wait for something else.
  await Promise.race([Promise.all(renewed), new Promise((done) => setTimeout(done, RENEWAL_MS).unref())])
}

function watch({ files, definition, root }: ProjectState, changed: () => Promise<void>): StopWatching {
  const directory = definition?.directory ?? null
  return watchFiles(files, directory === null ? [] : [resolve(root, directory)], () => void changed())
}

function tellOfChange(before: ProjectState, session: Session, { config }: ViteDevServer): void {
  const report = findObstacles(session)
  if (report !== null) config.logger.error(formatReport(report))
  else if (!before.usable) config.logger.info(`mappa: the settings for ${session.state.report.stage} are OK again`)
  else config.logger.info(`mappa: the settings for ${session.state.report.stage} have changed`)
}
