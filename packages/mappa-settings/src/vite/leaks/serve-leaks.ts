import { readFileSync, statSync } from 'node:fs'
import { relative } from 'node:path'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import type { Plugin } from 'vite'
import { OWN_IDS } from '../code/modules.ts'
import { listPaths, refuse } from '../serving/closed-files.ts'
import { toAskPath } from '../serving/requests.ts'
import { tell } from '../serving/verdicts.ts'
import type { ProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'
import type { Search, ValueFiles } from './search.ts'

interface Prepared {
  readonly search: Search
  readonly files: ValueFiles
}

/** Searches what a development server hands out as a build would: modules, pages, and files that are served as they are. */
export function serveLeaks(session: Session): Plugin {
  const known = new WeakMap<ProjectState, Prepared>()
  let check: typeof import('./search.ts')
  const findLeaks = async (file: string, content: string | Uint8Array, id = ''): Promise<Problem[]> => {
    const { state, options } = session
    if (state.inspection === null) return []
    check ??= await import('./search.ts')
    let prepared = known.get(state)
    if (prepared === undefined) {
      const search = check.verifySearch(check.prepareSearch(state.inspection, options.allowInPage ?? []))
      prepared = { search, files: new check.ValueFiles(state) }
      known.set(state, prepared)
    }
    const bytes = check.bytewise(content)
    const whole = prepared.files.findProblems(file, bytes)
    if (whole.length > 0) return whole
    const found = check.findLeaks(file, bytes, typeof content === 'string', prepared.search, state.inspection.settings)
    return found.map((each) =>
      id === '' ? each : withLocation(each, { importTrace: [check.getSource(id, each, session)] }),
    )
  }
  return {
    name: 'mappa:serve-leaks',
    transform: {
      order: 'post',
      async handler(code, id) {
        if (this.environment.config.consumer !== 'client' || OWN_IDS.test(id)) return
        const { round } = session
        const file = relative(session.state.root, id.replace(/^\0/, '').replace(/[?#].*$/, ''))
        const problems = await findLeaks(file, code, id)
        if (problems.length === 0) return
        session.replaced.add(id)
        tell(problems, session, round)
        const { writeProblemCode: problemCode } = await import('../serving/problem-page.ts')
        // The map of what was there would hold its text.
        return { code: problemCode(toAskPath(session.config!)), map: { mappings: '' } }
      },
    },
    transformIndexHtml: {
      order: 'post',
      async handler(html, { path }) {
        const { round } = session
        const problems = await findLeaks(path.replace(/^\//, ''), html)
        if (problems.length === 0) return
        tell(problems, session, round)
        const { writeProblemDocument: problemDocument } = await import('../serving/problem-page.ts')
        return problemDocument(toAskPath(session.config!))
      },
    },
    configureServer(server) {
      const { publicDir } = server.config
      let isRefused = false
      const searchPublicFiles = async (): Promise<void> => {
        if (publicDir === '') return
        const { round } = session
        check ??= await import('./search.ts')
        const files = check.listServedFiles(publicDir)
        const problems = (await Promise.all(files.map(({ file, read }) => findLeaks(file, read())))).flat()
        isRefused = problems.length > 0
        if (isRefused && round !== session.round) return searchPublicFiles()
        tell(problems, session, round)
      }
      /** Answers a request for a file that holds a private value. */
      const isRefusedFile = async (file: string, response: Parameters<typeof refuse>[0]): Promise<boolean> => {
        const bytes = toBytes(file)
        const shown = relative(session.state.root, file)
        const problems = bytes === null ? [] : await findLeaks(shown, bytes)
        if (problems.length === 0) return false
        tell(problems, session, session.round)
        refuse(response, shown)
        return true
      }
      // Nobody waits for it, and the page gives way when something was found.
      const start = () => void searchPublicFiles().catch((error: Error) => server.config.logger.error(error.message))
      server.httpServer?.once('listening', start)
      server.watcher.on('all', (_event, file) => {
        // What stood against the page is taken back with each change, and may stand there still.
        if (isRefused || file.startsWith(publicDir)) start()
      })
      // A file that is handed out as it is, and not made into a module.
      server.middlewares.use(async (request, response, next) => {
        const isScript = request.headers['sec-fetch-dest'] === 'script'
        const paths = isScript ? [] : listPaths(request.url ?? '', server.config)
        try {
          for (const file of paths) if (await isRefusedFile(file, response)) return
          next()
        } catch (error) {
          next(error)
        }
      })
    },
  }
}

/** Larger files are not looked through while serving, in bytes: 4 MiB. */
const MAX_FILE_BYTES = 4 * 1024 * 1024

/** The content of a file; `null` where there is none. */
function toBytes(file: string): Uint8Array | null {
  const stats = statSync(file, { throwIfNoEntry: false })
  return stats?.isFile() === true && stats.size <= MAX_FILE_BYTES ? readFileSync(file) : null
}
