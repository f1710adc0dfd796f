import type { DevEnvironment, Plugin, ViteDevServer } from 'vite'
import { formatReport } from '../core/problems/report.ts'
import { type StopWatching, watchFiles } from '../node/watch-files.ts'
import { resolve } from 'node:path'
import { crossing, forbiddenInPages } from './border.ts'
import { OWN_IDS } from './modules.ts'
import { type Look, lookAt } from './project.ts'
import { answerProblems, isPageRequest } from './requests.ts'
import { addProblems, obstacles, pageError, type Session } from './session.ts'

/**
 * Looks after the settings while Vite serves: shows what is wrong in the place of the page, takes in changed layers and
 * definitions without a restart, and holds the border.
 */
export function serving(session: Session): Plugin {
  let stop: StopWatching = () => {}
  return {
    name: 'mappa:serve',
    apply: (_config, { command, isPreview }) => command === 'serve' && isPreview !== true,
    configureServer(server) {
      const { config } = server
      const report = obstacles(session)
      if (report !== null) config.logger.error(formatReport(report))
      const look = async (): Promise<void> => {
        const before = session.look
        session.look = await lookAt(config.root, config.mode, session.options)
        stop()
        stop = watch(session.look, look)
        if (fingerprint(before) === fingerprint(session.look)) return
        tellOfChange(before, session, server)
        reload(server)
      }
      stop = watch(session.look, look)
      server.watcher.on('all', () => {
        if (session.crossings.length === 0) return
        session.crossings.length = 0
        reload(server)
      })
      server.middlewares.use((request, response, next) => {
        const found = isPageRequest(request) ? obstacles(session) : null
        if (found === null) next()
        else answerProblems(response, found)
      })
    },
    async load(id) {
      if (this.environment.config.consumer !== 'client') return
      const forbidden = forbiddenInPages(id, session.look)
      if (forbidden === null) return
      const environment = this.environment as DevEnvironment
      const graph = {
        importersOf: (each: string) =>
          [...(environment.moduleGraph.getModuleById(each)?.importers ?? [])].flatMap((one) => one.id ?? []),
        resolve: async (specifier: string, importer: string) => (await this.resolve(specifier, importer))?.id ?? null,
      }
      const importers = graph.importersOf(id).filter((each) => forbiddenInPages(each, session.look) === null)
      if (importers.length === 0) return
      const problems = await Promise.all(
        importers.map((each) => crossing(forbidden, id, each, graph, session.look)),
      )
      addProblems(session.crossings, problems)
      environment.hot.send({ type: 'full-reload' })
      throw pageError(problems, session)
    },
    buildEnd() {
      stop()
    },
  }
}

function watch({ files, definition, root }: Look, changed: () => Promise<void>): StopWatching {
  const directory = definition?.directory ?? null
  return watchFiles(files, directory === null ? [] : [resolve(root, directory)], () => void changed())
}

/** A text that is another one whenever a page could see a difference. Holds values, so it goes nowhere. */
function fingerprint({ report, inspection }: Look): string {
  const settings = inspection?.settings.map(({ declaration, text }) => {
    const { path, name, readAt, optional, kind } = declaration
    return [path, name, readAt, optional, kind.name, text]
  })
  return JSON.stringify([report.problems, settings])
}

function tellOfChange(before: Look, session: Session, { config }: ViteDevServer): void {
  const report = obstacles(session)
  if (report !== null) config.logger.error(formatReport(report))
  else if (!before.usable) config.logger.info(`mappa: the settings for ${session.look.report.stage} are fine again`)
  else config.logger.info(`mappa: the settings for ${session.look.report.stage} have changed`)
}

/** Has every page loaded anew, with the values that hold now. */
function reload(server: ViteDevServer): void {
  for (const { moduleGraph, hot } of Object.values(server.environments)) {
    for (const [id, module] of moduleGraph.idToModuleMap) {
      // What was read from the settings, and what a value was put into.
      if (OWN_IDS.test(id) || /\benv\b/.test(module.transformResult?.code ?? '') || module.transformResult === null)
        moduleGraph.invalidateModule(module)
    }
    hot.send({ type: 'full-reload' })
  }
}
