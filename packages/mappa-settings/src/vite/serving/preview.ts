import type { IncomingMessage, ServerResponse } from 'node:http'
import { resolve } from 'node:path'
import type { Plugin } from 'vite'
import { readProjectState } from '../session/project-state.ts'
import { type Session, toPageError } from '../session/session.ts'
import { getTarget, refuse } from './closed-files.ts'
import { isPageRequest } from './requests.ts'

/** Fills the pages of a build while Vite serves them, with the values that hold at each request. */
export function previewing(session: Session): Plugin {
  return {
    name: 'mappa:preview',
    async configurePreviewServer(server) {
      const { middlewares, config } = server
      // Nobody says when a preview ends.
      session.run = null
      const [{ answerProblems }, { fillAnswer }, { guardAnswers }, { ServedSearch }] = await Promise.all([
        import('./problem-page.ts'),
        import('./fill-answer.ts'),
        import('../leaks/guard-answers.ts'),
        import('../leaks/served-search.ts'),
      ])
      const answer = async (request: IncomingMessage, response: ServerResponse): Promise<boolean> => {
        const state = await readProjectState(config.root, config.mode, session.options)
        session.state = state
        if (state.usable) fillAnswer(request, response, state.inspection?.settings ?? [])
        else answerProblems(response, state.report)
        return state.usable
      }
      session.state = await readProjectState(config.root, config.mode, session.options)
      const told = new Set<string>()
      guardAnswers(server, session, {
        search: new ServedSearch(session),
        askPath: null,
        tell(problems) {
          const fresh = problems.filter((each) => !told.has(`${each.file} ${each.name}`))
          for (const each of fresh) told.add(`${each.file} ${each.name}`)
          if (fresh.length > 0) config.logger.error(toPageError(fresh, session).message)
        },
      })
      const outDir = resolve(config.root, config.build.outDir)
      middlewares.use((request, response, next) => {
        const target = getTarget(request, { root: outDir, publicDir: '', base: config.base }, session)
        if (target === null) next()
        else refuse(response, target)
      })
      middlewares.use((request, response, next) => {
        if (!isPageRequest(request)) next()
        else answer(request, response).then((usable) => usable && next(), next)
      })
    },
  }
}
