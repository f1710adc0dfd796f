import { randomBytes } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { findAsset } from './assets.ts'
import { EventStreams } from './event-streams.ts'
import type { LiveProject } from './live-project.ts'
import { BadRequest, readBody } from './read-body.ts'
import { explainForeignRequest, writeSafeHeaders } from './request-check.ts'
import { Answer, answer, makeRoutes, makeSessionRoute, type Route } from './routes.ts'
import { Sessions } from './sessions.ts'

/** The only address that the server listens on. */
const LOOPBACK = '127.0.0.1'

/** A running server. */
export interface PageServer {
  /** Makes a link that opens the page once. What makes it good for that stands behind `#`, which browsers send to nobody. */
  readonly newLink: () => string
  readonly close: () => Promise<void>
}

/** Options of {@link startPageServer}. */
export interface PageServerOptions {
  /**
   * The port to listen on.
   * @default a free one
   */
  readonly port?: number
  /** What opens files; `null` for none. */
  readonly editor: string | null
}

/**
 * Starts the server of the page. It listens on the loopback address alone; each request must name that address, come from the page and
 * carry the key that the page got for its link.
 *
 * @throws what the system says where the port is taken
 */
export async function startPageServer(live: LiveProject, { port = 0, editor }: PageServerOptions): Promise<PageServer> {
  const sessions = new Sessions()
  const streams = new EventStreams(live)
  let host = ''
  const makeLink = () => `http://${host}/#${sessions.makeToken()}`
  const routes = makeRoutes(live, editor, makeLink)
  const server = createServer((request, response) => {
    handle(request, response, { host, sessions, routes, streams }).catch(() => {
      if (!response.headersSent) send(response, new Answer(500, { error: 'Mappa failed.', problems: [] }))
      else response.destroy()
    })
  })
  await startListening(server, port)
  host = `${LOOPBACK}:${(server.address() as AddressInfo).port}`
  return {
    newLink: makeLink,
    async close() {
      streams.close()
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}

function startListening(server: Server, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, LOOPBACK, resolve)
  })
}

interface Context {
  readonly host: string
  readonly sessions: Sessions
  readonly routes: Readonly<Record<string, Route>>
  readonly streams: EventStreams
}

async function handle(request: IncomingMessage, response: ServerResponse, context: Context): Promise<void> {
  const refused = explainForeignRequest(request, context.host)
  if (refused !== null) return send(response, new Answer(403, { error: refused, problems: [] }))
  const { pathname } = new URL(request.url ?? '/', `http://${context.host}`)
  if (!pathname.startsWith('/api/')) return sendAsset(request, response, pathname)
  if (request.method !== 'POST') return send(response, new Answer(405, { error: 'POST is expected.', problems: [] }))
  const isStart = pathname === '/api/session'
  if (!isStart && !context.sessions.isKey(getKey(request)))
    return send(response, new Answer(401, { error: 'The request has no valid key.', problems: [] }))
  if (pathname === '/api/events') return context.streams.add(response, writeSafeHeaders())
  const known = Object.hasOwn(context.routes, pathname) ? context.routes[pathname] : undefined
  const route = isStart ? makeSessionRoute(context.sessions) : known
  if (route === undefined) return send(response, new Answer(404, { error: 'There is no such page.', problems: [] }))
  const body = await parseBody(request)
  send(response, body instanceof Answer ? body : await answer(route, body))
}

async function parseBody(request: IncomingMessage): Promise<Readonly<Record<string, unknown>> | Answer> {
  try {
    return await readBody(request)
  } catch (error) {
    if (error instanceof BadRequest) return new Answer(400, { error: error.message, problems: [] })
    throw error
  }
}

function getKey({ headers }: IncomingMessage): string {
  return /^Bearer ([\w-]+)$/.exec(headers.authorization ?? '')?.[1] ?? ''
}

/** The files of the page hold nothing of the project, so they need no key. */
function sendAsset({ method }: IncomingMessage, response: ServerResponse, pathname: string): void {
  const asset = method === 'GET' || method === 'HEAD' ? findAsset(pathname) : null
  if (asset === null) {
    send(response, new Answer(404, { error: 'There is no such page.', problems: [] }))
    return
  }
  const isPage = asset.type.startsWith('text/html')
  // For the one style sheet that the components write while the page runs.
  const nonce = randomBytes(16).toString('base64url')
  const content = isPage ? asset.content.toString('utf8').replaceAll('{nonce}', nonce) : asset.content
  response.writeHead(200, { 'content-type': asset.type, ...writeSafeHeaders(isPage ? nonce : undefined) })
  response.end(method === 'HEAD' ? undefined : content)
}

function send(response: ServerResponse, { status, body }: Answer): void {
  // What was not read of a request would be taken for the next one.
  const isRead = response.req.complete
  const connection = isRead ? {} : { connection: 'close' }
  response.writeHead(status, {
    'content-type': 'application/json; charset=utf-8',
    ...connection,
    ...writeSafeHeaders(),
  })
  response.end(JSON.stringify(body))
}
