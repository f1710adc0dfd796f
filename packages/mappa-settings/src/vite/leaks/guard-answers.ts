import type { Problem } from '@mappa/core/problems/problem'
import type { PreviewServer, ViteDevServer } from 'vite'
import { type Gate, guardAnswer } from '../serving/gate.ts'
import { putFirst } from '../serving/requests.ts'
import type { Session } from '../session/session.ts'
import type { ServedSearch } from './served-search.ts'

/** How answers are looked at. */
interface Guarding extends Pick<Gate, 'askPath'> {
  readonly search: ServedSearch
  /** Is told what is wrong with an answer, and the round in which it was looked at. */
  readonly tell: (problems: readonly Problem[], round: number) => void
}

/** Looks at every answer of a server, whichever part of it makes it. */
export function guardAnswers(
  server: ViteDevServer | PreviewServer,
  session: Session,
  { search, askPath, tell }: Guarding,
): void {
  const { middlewares, config } = server
  const large = new Set<string>()
  if ('watcher' in server) server.watcher.on('all', () => large.clear())
  const gate: Gate = {
    askPath,
    isLarge: (url) => large.has(url),
    reportLarge(url) {
      large.add(url)
      search.tellLarge(toFile(url, config.base))
    },
    async searchAnswer({ url, bytes }) {
      const { round } = session
      const file = toFile(url, config.base)
      const problems = await search.findLeaks(file, bytes)
      tell(problems, round)
      return problems.length === 0 ? null : (problems[0]!.file ?? file)
    },
  }
  putFirst(middlewares, (request, response, next) => {
    guardAnswer(request, response, gate)
    next()
  })
}

/** What an address asks for, as a person calls it. */
function toFile(url: string, base: string): string {
  const path = url.replace(/[?#].*$/s, '')
  const plain = path.startsWith(base) ? path.slice(base.length) : path.replace(/^\/+/, '')
  return plain === '' ? 'index.html' : plain
}
