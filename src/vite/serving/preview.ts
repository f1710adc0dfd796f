import type { Plugin } from 'vite'
import { lookAt } from '../project.ts'
import type { Session } from '../session.ts'
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
      middlewares.use(async (request, response, next) => {
        if (!isPageRequest(request)) return next()
        const look = await lookAt(config.root, config.mode, session.options)
        if (!look.usable) return answerProblems(response, look.report)
        fillAnswer(request, response, look.inspection?.settings ?? [])
        next()
      })
    },
  }
}
