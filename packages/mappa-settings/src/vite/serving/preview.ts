import type { IncomingMessage, ServerResponse } from 'node:http'
import { resolve } from 'node:path'
import type { Plugin } from 'vite'
import { readProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'
import { getTarget, refuse } from './closed-files.ts'
import { isPageRequest } from './requests.ts'

/** Fills the pages of a build while Vite serves them, with the values that hold at each request. */
export function previewing(session: Session): Plugin {
  return {
    name: 'mappa:preview',
    async configurePreviewServer({ middlewares, config }) {
      const [{ answerProblems }, { fillAnswer }] = await Promise.all([
        import('./problem-page.ts'),
        import('./fill-answer.ts'),
      ])
      const answer = async (request: IncomingMessage, response: ServerResponse): Promise<boolean> => {
        const state = await readProjectState(config.root, config.mode, session.options)
        if (state.usable) fillAnswer(request, response, state.inspection?.settings ?? [])
        else answerProblems(response, state.report)
        return state.usable
      }
      session.state = await readProjectState(config.root, config.mode, session.options)
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
