import { createHmac, randomBytes } from 'node:crypto'
import { once } from 'node:events'
import { createServer, type IncomingMessage, Server, type ServerResponse } from 'node:http'
import { createServer as createTlsServer, type Server as TlsServer } from 'node:https'
import { formPage } from './form-page.ts'

/** What the service may do wrong, for a test to switch on. */
export interface Faults {
  /** Answers so much later, in milliseconds. */
  delay?: number
  /** Ends answers in the middle. */
  half?: boolean
  /** Answers with what it holds for another stage. */
  wrongStage?: boolean
  /** Answers with a page of HTML, as a proxy before it may. */
  html?: boolean
  /** Sends the client to another address. */
  redirect?: string
  /** Answers with a status alone. */
  status?: number
}

/** A variable that a service keeps, for nobody to read. */
export interface Kept {
  readonly value: string
  readonly revision: number
  readonly by: string | null
  readonly at: string
}

interface Event {
  readonly revision: string
  readonly at: string
  readonly by: string | null
  readonly names: { readonly name: string; readonly what: 'added' | 'changed' | 'removed' }[]
}

/** What a service keeps for a stage. */
export interface KeptStage {
  readonly digestKey: string
  readonly variables: Map<string, Kept>
  readonly events: Event[]
  revision: number
}

/** A simulated hosting service: a form of settings for each stage of one program, with the protocol of `docs/store-protocol.md`. */
export class Hosting {
  readonly faults: Faults = {}
  readonly stages = new Map<string, KeptStage>()
  /** The requests that came, without what was in them. */
  readonly requests: string[] = []
  readonly token: string
  readonly #server: Server | TlsServer

  private constructor(stages: readonly string[], token: string, tls?: { readonly cert: string; readonly key: string }) {
    this.token = token
    for (const stage of stages) {
      const digestKey = randomBytes(24).toString('base64url')
      this.stages.set(stage, { digestKey, variables: new Map(), events: [], revision: 1 })
    }
    const handle = (request: IncomingMessage, response: ServerResponse) => void this.#handle(request, response)
    this.#server = tls === undefined ? createServer(handle) : createTlsServer(tls, handle)
  }

  /** Starts a service on this machine. */
  static async start(
    stages: readonly string[] = ['development', 'staging', 'production'],
    tls?: { readonly cert: string; readonly key: string },
  ): Promise<Hosting> {
    const hosting = new Hosting(stages, randomBytes(18).toString('base64url'), tls)
    hosting.#server.listen(0, '127.0.0.1')
    await once(hosting.#server, 'listening')
    return hosting
  }

  /** The address of the program at the service. */
  get url(): string {
    const { port } = this.#server.address() as { port: number }
    return `${this.#server instanceof Server ? 'http' : 'https'}://127.0.0.1:${port}/v1/projects/dome-api`
  }

  stop(): void {
    this.#server.close()
    this.#server.closeAllConnections()
  }

  async #handle(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request)
    this.requests.push(`${request.method} ${request.url}`)
    const { delay = 0, redirect, status, html } = this.faults
    if (delay > 0) await new Promise((resolve) => setTimeout(resolve, delay))
    if (redirect !== undefined) return void response.writeHead(307, { location: redirect }).end()
    if (status !== undefined) return void response.writeHead(status).end()
    if (html) return void response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><p>Sign in</p>')
    if (request.url === '/')
      return void response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(formPage(this.stages))
    if (request.headers.authorization !== `Bearer ${this.token}`) return void response.writeHead(401).end()
    const [, stage = '', below = ''] =
      /^\/v1\/projects\/dome-api\/stages\/([\w-]+)(\/history)?$/.exec(request.url ?? '') ?? []
    const kept = this.stages.get(stage)
    if (kept === undefined) return void response.writeHead(404).end()
    const [code, answer] =
      request.method === 'PUT' ? this.#write(kept, stage, body) : [200, this.#read(kept, stage, below)]
    const text = JSON.stringify({ protocol: 'mappa-store/1', ...answer })
    response.writeHead(code, { 'content-type': 'application/json' })
    response.end(this.faults.half ? text.slice(0, text.length / 2) : text)
  }

  #read({ digestKey, variables, revision, events }: KeptStage, stage: string, below: string): object {
    if (below !== '') return { events: [...events].reverse(), isCut: false }
    const listed = [...variables].map(([name, { value, revision: own }]) => ({
      name,
      revision: String(own),
      digest: createHmac('sha256', digestKey).update(value).digest('hex'),
    }))
    const shown = this.faults.wrongStage ? [...this.stages.keys()].find((each) => each !== stage) : stage
    return { stage: shown, revision: String(revision), digestKey, variables: listed }
  }

  #write(kept: KeptStage, stage: string, body: string): [code: number, answer: object] {
    const {
      expected,
      by = null,
      changes,
    } = JSON.parse(body) as {
      expected: string
      by?: string | null
      changes: { name: string; value: string | null }[]
    }
    if (expected !== String(kept.revision)) {
      const changed = [...kept.variables]
        .filter(([, { revision }]) => revision > Number(expected))
        .map(([name]) => name)
      return [409, { changed }]
    }
    if (changes.some(({ value }) => value !== null && value.length > 65_536)) return [422, { reason: 'too long' }]
    const revision = ++kept.revision
    const at = new Date().toISOString()
    const names: Event['names'] = []
    for (const { name, value } of changes) {
      const present = kept.variables.has(name) ? 'changed' : 'added'
      names.push({ name, what: value === null ? 'removed' : present })
      if (value === null) kept.variables.delete(name)
      else kept.variables.set(name, { value, revision, by, at })
    }
    kept.events.push({ revision: String(revision), at, by, names })
    return [200, { stage, revision: String(revision) }]
  }
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of request) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks).toString('utf8')
}

if (process.argv[1] === import.meta.filename) {
  const hosting = await Hosting.start()
  console.log(`The simulated hosting service: ${new URL('/', hosting.url).href}`)
  console.log(`Its address for settings.store.json: ${hosting.url}`)
  console.log(`Its token, to be put into HOSTING_TOKEN: ${hosting.token}`)
}
