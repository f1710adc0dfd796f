import { relative } from 'node:path'
import type { Problem } from '@mappa/core/problems/problem'
import type { Connect, Plugin, ViteDevServer } from 'vite'
import { OWN_IDS } from '../code/modules.ts'
import { listPaths, refuse } from '../serving/closed-files.ts'
import { toAskPath } from '../serving/requests.ts'
import { tell } from '../serving/verdicts.ts'
import type { Session } from '../session/session.ts'
import { ServedSearch } from './served-search.ts'

/** Searches what a development server hands out as a build would: modules, pages, and files that are served as they are. */
export function serveLeaks(session: Session): Plugin {
  const search = new ServedSearch(session)
  return {
    name: 'mappa:serve-leaks',
    transform: {
      order: 'post',
      async handler(code, id) {
        if (this.environment.config.consumer !== 'client' || OWN_IDS.test(id)) return
        const { round } = session
        const file = relative(session.state.root, id.replace(/^\0/, '').replace(/[?#].*$/, ''))
        const problems = await search.findLeaks(file, code, id)
        if (problems.length === 0) return
        session.replaced.add(id)
        tell(problems, session, round)
        const { writeProblemCode } = await import('../serving/problem-page.ts')
        // The map of what was there would hold its text.
        return { code: writeProblemCode(toAskPath(session.config!)), map: { mappings: '' } }
      },
    },
    transformIndexHtml: {
      order: 'post',
      async handler(html, { path }) {
        const { round } = session
        const problems = await search.findLeaks(path.replace(/^\//, ''), html)
        if (problems.length === 0) return
        tell(problems, session, round)
        const { writeProblemDocument } = await import('../serving/problem-page.ts')
        return writeProblemDocument(toAskPath(session.config!))
      },
    },
    configureServer(server) {
      watchPublicFiles(server, session, search)
      server.middlewares.use(refuseFiles(server, session, search))
    },
  }
}

/** Searches the files that are handed out as they are: when the server begins, and when they change. */
function watchPublicFiles(server: ViteDevServer, session: Session, search: ServedSearch): void {
  const { publicDir, logger } = server.config
  if (publicDir === '') return
  let isRefused = false
  const searchAll = async (): Promise<void> => {
    let problems: readonly Problem[] = []
    let round: number
    do {
      round = session.round
      problems = await search.findLeaksInDirectory(publicDir)
      // What was told in a round is taken back with it.
    } while (problems.length > 0 && round !== session.round)
    isRefused = problems.length > 0
    tell(problems, session, round)
  }
  // Nobody waits for it, and the page gives way when something was found.
  const start = () => void searchAll().catch((error: Error) => logger.error(error.message))
  server.httpServer?.once('listening', start)
  server.watcher.on('all', (_event, file) => {
    // What stood against the page is taken back with each change, and may stand there still.
    if (isRefused || file.startsWith(publicDir)) start()
  })
}

/** Answers requests for files that hold a private value, and are handed out as they are and not made into modules. */
function refuseFiles(server: ViteDevServer, session: Session, search: ServedSearch): Connect.NextHandleFunction {
  return async (request, response, next) => {
    const isScript = request.headers['sec-fetch-dest'] === 'script'
    const paths = isScript ? [] : listPaths(request.url ?? '', server.config)
    try {
      for (const file of paths) {
        const problems = await search.findLeaksInFile(file)
        if (problems.length === 0) continue
        tell(problems, session, session.round)
        refuse(response, relative(session.state.root, file))
        return
      }
      next()
    } catch (error) {
      next(error)
    }
  }
}
