import { relative } from 'node:path'
import type { Problem } from '@mappa/core/problems/problem'
import type { Plugin, ViteDevServer } from 'vite'
import { OWN_IDS } from '../code/modules.ts'
import { toAskPath } from '../serving/requests.ts'
import { guardLog, guardSockets } from '../serving/sockets.ts'
import { tell } from '../serving/verdicts.ts'
import type { Session } from '../session/session.ts'
import { guardAnswers } from './guard-answers.ts'
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
        const problems = await search.findLeaks(toShown(id, session), code, id)
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
      guardAnswers(server, session, {
        search,
        askPath: toAskPath(server.config),
        tell: (problems, round) => tell(problems, session, round),
      })
      watchPublicFiles(server, session, search)
      guardSockets(server, session)
      guardLog(session)
    },
  }
}

/** Searches the files that are handed out as they are: when the server begins, and when they change. */
function watchPublicFiles(server: ViteDevServer, session: Session, search: ServedSearch): void {
  const { publicDir, logger } = server.config
  let isRefused = false
  const searchPublic = async (): Promise<void> => {
    if (publicDir === '') return
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
  session.searchServed = async () => {
    await searchModules(server, session, search)
    await searchPublic()
  }
  // Nobody waits for it, and the page gives way when something was found.
  const start = () => void searchPublic().catch((error: Error) => logger.error(error.message))
  if (server.httpServer === null) start()
  else server.httpServer.once('listening', start)
  server.watcher.on('all', (_event, file) => {
    // What stood against the page is taken back with each change, and may stand there still.
    if (isRefused || (publicDir !== '' && file.startsWith(publicDir))) start()
  })
}

/** Looks again at the modules of pages as they were handed out, and has all of them made anew. */
async function searchModules(server: ViteDevServer, session: Session, search: ServedSearch): Promise<void> {
  const { moduleGraph } = server.environments.client
  const served = [...moduleGraph.idToModuleMap.values()].flatMap(({ id, transformResult }) =>
    id === null || transformResult === null || OWN_IDS.test(id) ? [] : [{ id, code: transformResult.code }],
  )
  moduleGraph.invalidateAll()
  for (const { id, code } of served) {
    const { round } = session
    tell(await search.findLeaks(toShown(id, session), code, id), session, round)
  }
}

/** A module as a person calls it. */
function toShown(id: string, { state }: Session): string {
  return relative(state.root, id.replace(/^\0/, '').replace(/[?#].*$/, ''))
}
