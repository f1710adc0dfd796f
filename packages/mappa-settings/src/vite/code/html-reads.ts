import { relative } from 'node:path'
import { escapeForHtml } from '@mappa/core/page/escape'
import { readProblem } from '@mappa/core/page/read-problem'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { toPosition } from '@mappa/core/text/position'
import type { Plugin } from 'vite'
import { toAskPath } from '../serving/requests.ts'
import { tell } from '../serving/verdicts.ts'
import { addProblems, type Session } from '../session/session.ts'

/** A variable in the text of a page, as in `<title>%NIGHT_TITLE%</title>`. */
const READ = /%([A-Z][A-Z0-9_]*)%/g

/**
 * Puts public values in the place of `%NAME%` in pages, where reads of `import.meta.env` are kept; all other reads of a setting are
 * errors, since the name itself would be shown. What is no setting stays as it is.
 */
export function htmlReads(session: Session): Plugin {
  return {
    name: 'mappa:page-reads',
    transformIndexHtml: {
      order: 'pre',
      async handler(html, { filename, server }) {
        const { round } = session
        const { html: replaced, problems } = replaceReads(html, filename, session)
        if (problems.length === 0) return replaced
        if (server === undefined) {
          addProblems(session.violations, problems)
          return html
        }
        tell(problems, session, round)
        const { writeProblemDocument: problemDocument } = await import('../serving/problem-page.ts')
        return problemDocument(toAskPath(session.config!))
      },
    },
  }
}

function replaceReads(html: string, file: string, { state, options }: Session) {
  const settings = state.inspection?.settings ?? []
  const declarations = settings.map((each) => each.declaration)
  const isKept = options.inlineReads?.includes('import.meta.env') === true
  const problems: Problem[] = []
  const replaced = html.replace(READ, (read: string, name: string, at: number) => {
    const setting = settings.find(({ declaration }) => [declaration.name, ...declaration.formerly].includes(name))
    if (setting === undefined) return read
    const place = { file: relative(state.root, file), ...toPosition(html, at) }
    const fault = readProblem(read, name, declarations, place)
    if (fault === null && isKept) return escapeForHtml(setting.text ?? '')
    const { path } = setting.declaration
    problems.push(
      fault ??
        pageProblem('read-not-inlined', { read, path, object: 'import.meta.env' }, { ...place, name, setting: path }),
    )
    return read
  })
  return { html: replaced, problems }
}
