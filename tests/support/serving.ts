import type { TestContext } from 'node:test'
import type { MappaOptions } from 'mappa-settings/vite'
import { createServer, type InlineConfig, type LogErrorOptions, type Logger } from 'vite'
import { configOf } from './page-project.ts'

/** What a development server gave away, and said. */
export interface Served {
  /** Every answer, one behind another. */
  readonly bodies: string
  /** What stood at the terminal. */
  readonly log: string
  /** The status of each address, as it was asked for. */
  readonly statuses: ReadonlyMap<string, number>
  /** The answer to a request of the page after all that. */
  readonly page: { readonly status: number; readonly text: string }
}

/** How a project is served, and what is asked for beside its page. */
export interface Serving {
  readonly config?: InlineConfig
  readonly options?: MappaOptions
  readonly urls?: readonly string[]
  readonly vite?: Pick<typeof import('vite'), 'createServer'>
}

/**
 * Serves a project, asks for its page and all modules that it leads to, and for some addresses as they are.
 */
export async function serve(
  context: Pick<TestContext, 'after'>,
  root: string,
  { config = {}, options = {}, urls = [], vite = { createServer } }: Serving,
): Promise<Served> {
  const { said, logger: customLogger } = listener()
  const server = await vite.createServer({
    ...configOf(root, config, options),
    customLogger,
    logLevel: 'info',
    server: { port: 0, watch: null, ws: false, hmr: false, ...config.server },
    optimizeDeps: { noDiscovery: true, ...config.optimizeDeps },
  })
  context.after(() => server.close())
  await server.listen()
  const { port } = server.httpServer!.address() as { port: number }
  const base = server.config.base
  const bodies: string[] = []
  const statuses = new Map<string, number>()
  const ask = async (path: string, headers: Record<string, string> = {}) => {
    const answer = await raw(port, path, headers)
    statuses.set(path, answer.status)
    bodies.push(answer.text)
    return answer
  }
  const page = () => ask(base, { accept: 'text/html' })
  const open = modulesIn((await page()).text)
  const seen = new Set<string>()
  for (let next = open.pop(); next !== undefined && seen.size < 200; next = open.pop()) {
    const path = next.startsWith('/') ? next : `/${next}`
    if (seen.has(path)) continue
    seen.add(path)
    open.push(...modulesIn((await ask(path, { 'sec-fetch-dest': 'script' })).text))
  }
  for (const url of urls) await ask(url.replace('<root>', root))
  const last = await page()
  return { bodies: bodies.join('\n'), log: said.join('\n'), statuses, page: last }
}

/** A logger that keeps what it is told. */
export function listener(): { readonly said: string[]; readonly logger: Logger } {
  const said: string[] = []
  const say = (text: string, more?: LogErrorOptions) => {
    const { message, frame } = (more?.error ?? {}) as { message?: string; frame?: string }
    said.push(text, message ?? '', frame ?? '')
  }
  const rest = { clearScreen() {}, hasErrorLogged: () => false, hasWarned: false }
  return { said, logger: { info: say, warn: say, warnOnce: say, error: say, ...rest } }
}

/** One request whose path is sent as it is. */
export async function raw(port: number, path: string, headers: Record<string, string>) {
  const { request } = await import('node:http')
  return new Promise<{ status: number; text: string }>((resolve, reject) => {
    const asked = request({ port, host: 'localhost', path, headers }, (answer) => {
      let text = ''
      answer.setEncoding('utf8').on('data', (piece) => {
        text += piece
      })
      answer.on('end', () => resolve({ status: answer.statusCode!, text }))
    })
    asked.on('error', reject).end()
  })
}

function modulesIn(text: string): string[] {
  const found = text.matchAll(
    /(?:\bfrom\s*|\bimport\s*\(?\s*|\bsrc=|\bhref=|\bnew URL\(\s*(?:\/\*.*?\*\/\s*)?)["'](\/[^"']+)["']/g,
  )
  return [...found].map(([, path]) => path!.replaceAll('&amp;', '&'))
}
