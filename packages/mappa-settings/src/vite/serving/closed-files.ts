import type { IncomingMessage, ServerResponse } from 'node:http'
import { join } from 'node:path'
import type { Connect, ViteDevServer } from 'vite'
import { offLimits } from '../border/off-limits.ts'
import { listRefusals, type Session } from '../session/session.ts'
import { markOwn } from './own-answers.ts'
import { toAskPath } from './requests.ts'
import { tellRequested } from './verdicts.ts'

/** Directories below which a server finds the files that are asked for. */
export interface ServedFrom {
  readonly root: string
  readonly publicDir: string
  readonly base: string
}

/**
 * Answers requests for what no page may have with 403, whatever the configuration of Vite says about its files. A script that asks
 * for it gets code that shows the problem page.
 */
export function closedFiles(session: Session, server: ViteDevServer): Connect.NextHandleFunction {
  return (request, response, next) => {
    const target = getTarget(request, server.config, session)
    if (target === null) next()
    else answer(request, response, target).catch(next)
  }

  async function answer(request: IncomingMessage, response: ServerResponse, target: string): Promise<void> {
    if (request.headers['sec-fetch-dest'] !== 'script') return refuse(response, target)
    // Whoever imports it is reported while the module is made, which holds nothing of the file.
    const url = withoutBase(request.url!, server.config.base).replace(/([?&])import=?(?:&|$)/, '$1')
    const { client } = server.environments
    const asked = url.replace(/[?&]$/, '')
    await client.warmupRequest(asked)
    if (listRefusals(session) === null) tellRequested(target, session)
    const { writeProblemCode: problemCode } = await import('./problem-page.ts')
    response.writeHead(200, { 'content-type': 'text/javascript', 'cache-control': 'no-store' })
    response.end(`${problemCode(toAskPath(server.config))}export default undefined\n`)
  }
}

/** Says that a file is not served. */
export function refuse(response: ServerResponse, target: string): void {
  response.writeHead(403, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' })
  markOwn(response)
  response.end(`${target} is not for pages, and mappa-settings/vite does not serve it.\n`)
}

/** What is asked for, where no page may have it. */
export function getTarget(request: IncomingMessage, from: ServedFrom, session: Session): string | null {
  const url = (request as { originalUrl?: string }).originalUrl ?? request.url ?? ''
  const limits = offLimits(session.state)
  for (const path of listPaths(url, from)) {
    const forbidden = limits.file(path)
    // Modules of the server side hold no values, and a bundler may hand them out under their own address.
    if (forbidden !== null && forbidden.code !== 'server-in-page') return forbidden.target
  }
  return null
}

/** Every file that an address may mean, however it is written. */
export function listPaths(url: string, { root, publicDir, base }: ServedFrom): readonly string[] {
  const found = new Set<string>()
  let path = url.replace(/[?#].*$/s, '')
  // Encoded once more than needed, as links often are.
  for (let round = 0; round < 4; round++) {
    for (const each of [path, withoutBase(path, base)]) addPaths(each, root, publicDir, found)
    const next = decode(path)
    if (next === path) break
    path = next
  }
  return [...found]
}

function addPaths(path: string, root: string, publicDir: string, found: Set<string>): void {
  const plain = path
    .replaceAll('\0', '')
    .replaceAll('\\', '/')
    .replace(/^\/+(?:@id\/)?(?:__x00__)?/, '/')
    .replace(/[?#].*$/s, '')
  // Some file systems leave dots and blanks at the end of a name out, and what stands behind a colon.
  for (const each of [plain, plain.replace(/(?:::?\$?\w*|[. ]|%20)+$/, ''), plain.replace(/\/+$/, '')]) {
    const whole = each.replace(/^\/+@fs\/+/, '/')
    found.add(join(root, each))
    if (publicDir !== '') found.add(join(publicDir, each))
    found.add(join('/', whole))
  }
}

function withoutBase(path: string, base: string): string {
  return base.length > 1 && path.startsWith(base) ? path.slice(base.length - 1) : path
}

function decode(path: string): string {
  // What can't be decoded as a whole may still hold what can.
  return path.replace(/(?:%[\da-f]{2})+/gi, (each) => {
    try {
      return decodeURIComponent(each)
    } catch {
      return each
    }
  })
}
