import type { Plugin } from 'vite'
import { toAskPath } from '../serving/requests.ts'
import { tell } from '../serving/verdicts.ts'
import { addProblems, type Session } from '../session/session.ts'
import { findForbiddenAddresses, findForbiddenScripts, STYLES } from './addresses.ts'

/** Keeps what no page may reach from becoming an asset of it: by addresses in code, in styles and in pages. */
export function addressBorder(session: Session): Plugin[] {
  /** Looks through one file, and tells what is wrong with it; true where something is. */
  const isWrong = (text: string, id: string, language: 'code' | 'styles' | 'page'): boolean => {
    const { config, state } = session
    const file = id.replace(/^\0/, '').replace(/[?#].*$/, '')
    const problems = findForbiddenAddresses(text, file, language, config!, state)
    if (problems.length === 0) return false
    session.replaced.add(id)
    if (config!.command === 'build') addProblems(session.violations, problems)
    else tell(problems, session, session.round)
    return true
  }
  return [
    {
      name: 'mappa:code-addresses',
      enforce: 'pre',
      transform: {
        order: 'pre',
        filter: { id: { exclude: /\/node_modules\// }, code: 'import.meta.url' },
        async handler(code, id) {
          if (this.environment.config.consumer !== 'client' || !isWrong(code, id, 'code')) return
          if (session.config!.command === 'build') return 'export default undefined\n'
          const { writeProblemCode: problemCode } = await import('../serving/problem-page.ts')
          return { code: problemCode(toAskPath(session.config!)) + code, map: null }
        },
      },
    },
    {
      name: 'mappa:style-addresses',
      enforce: 'pre',
      transform: {
        order: 'pre',
        filter: { id: STYLES },
        // What another plugin would make of it could hold lines of that file, errors included.
        handler(code, id) {
          const isRefused = this.environment.config.consumer === 'client' && isWrong(code, id, 'styles')
          return isRefused ? { code: '', map: null } : null
        },
      },
    },
    {
      name: 'mappa:page-addresses',
      transformIndexHtml: {
        order: 'pre',
        async handler(html, { filename, server }) {
          const scripts =
            server === undefined ? [] : findForbiddenScripts(html, filename, session.config!, session.state)
          tell(scripts, session, session.round)
          const isRefused = isWrong(html, filename, 'page') || scripts.length > 0
          if (!isRefused || server === undefined) return
          const { writeProblemDocument: problemDocument } = await import('../serving/problem-page.ts')
          return problemDocument(toAskPath(session.config!))
        },
      },
    },
  ]
}
