import { StoreError } from '@mappa/core/store/store-error'
import { toFailure } from './failure.ts'

/** What a connection is secured with: texts in PEM, as `tls.connect` of Node takes them. */
export interface TlsOptions {
  /**
   * The certificates to trust.
   * @default those that come with Node
   */
  readonly ca?: string | Uint8Array
  /** The certificate and the key that this program shows; none if left out. */
  readonly cert?: string | Uint8Array
  readonly key?: string | Uint8Array
  /**
   * The name that the certificate of the other side must have.
   * @default the name in the address
   */
  readonly servername?: string
}

/** A request to a store. */
export interface HttpRequest {
  readonly url: URL
  readonly method?: 'GET' | 'POST' | 'PUT'
  readonly headers?: Readonly<Record<string, string>>
  readonly body?: string
  /** The time until the answer has to begin, in milliseconds; for one that is read whole, until it ends. */
  readonly timeout: number
  readonly signal?: AbortSignal
}

/** An answer that was read whole. */
export interface HttpAnswer {
  readonly status: number
  readonly contentType: string
  readonly text: string
}

/** Longer answers are none of a store, in bytes: 64 MiB. */
const MOST_BYTES = 64 * 1024 * 1024

type Agent = import('node:http').Agent
type IncomingMessage = import('node:http').IncomingMessage

/** Keeps connections to a store open, and lets them go. Idle ones keep no program from ending. */
export class Connections {
  readonly #tls: import('node:tls').SecureContextOptions
  readonly #agents = new Map<string, Agent>()

  constructor(tls: TlsOptions = {}) {
    // Node takes any bytes, though its types know a Buffer alone.
    this.#tls = tls as import('node:tls').SecureContextOptions
  }

  /**
   * Sends a request and reads the answer. Redirects are not followed: a token would go to whoever they name.
   *
   * @throws {StoreError} where there is no answer, or one that redirects
   */
  async send(request: HttpRequest): Promise<HttpAnswer> {
    const timer = new TimeLimit(request)
    try {
      const message = await this.#begin(request, timer)
      return {
        status: message.statusCode ?? 0,
        contentType: String(message.headers['content-type'] ?? ''),
        text: await whole(message),
      }
    } catch (error) {
      throw timer.reason(error, request.url)
    } finally {
      timer.clear()
    }
  }

  /**
   * Sends a request and reads the lines of the answer as they come, until it ends.
   *
   * @param onLine is given each line
   * @throws {StoreError} where there is no answer, or the connection breaks
   */
  async stream(request: HttpRequest, onBegin: (status: number) => void, onLine: (line: string) => void): Promise<void> {
    const timer = new TimeLimit(request)
    try {
      const message = await this.#begin(request, timer)
      timer.began()
      onBegin(message.statusCode ?? 0)
      message.setEncoding('utf8')
      let rest = ''
      for await (const chunk of message as AsyncIterable<string>) {
        const lines = (rest + chunk).split('\n')
        rest = lines.pop()!
        for (const line of lines) if (line !== '') onLine(line)
      }
      if (rest !== '') onLine(rest)
    } catch (error) {
      throw timer.reason(error, request.url)
    } finally {
      timer.clear()
    }
  }

  /** Closes all connections. */
  close(): void {
    for (const agent of this.#agents.values()) agent.destroy()
    this.#agents.clear()
  }

  #begin(asked: HttpRequest, limit: TimeLimit): Promise<IncomingMessage> {
    const { url, method = 'POST', headers = {}, body = '' } = asked
    const { request } = chooseModule(url)
    const { signal } = limit
    const agent = this.#chooseAgent(url)
    const length = { 'content-length': String(Buffer.byteLength(body)) }
    return new Promise((resolve, reject) => {
      const sent = request(
        url,
        { method, headers: { ...headers, ...length }, agent, signal, ...this.#tls },
        (message) => {
          const status = message.statusCode ?? 0
          if (status < 300 || status >= 400) return resolve(message)
          message.destroy()
          reject(new StoreError('answer', `${url.host} redirects to another address, which is not followed`))
        },
      )
      // Without this, nothing would ever come.
      sent.on('upgrade', (_message, socket) => {
        socket.destroy()
        reject(new StoreError('answer', `${url.host} switches to another protocol`))
      })
      sent.on('error', (error: NodeJS.ErrnoException) => {
        // The other side closed a connection that was idle, just as it was used again. Each that is left may be one of those.
        if (sent.reusedSocket && error.code === 'ECONNRESET') resolve(this.#begin(asked, limit))
        else reject(error)
      })
      sent.end(body)
    })
  }

  #chooseAgent(url: URL): Agent {
    const known = this.#agents.get(url.origin)
    if (known !== undefined) return known
    const agent = new (chooseModule(url).Agent)({ keepAlive: true, keepAliveMsecs: 5000 })
    this.#agents.set(url.origin, agent)
    return agent
  }
}

function chooseModule(url: URL): typeof import('node:http') | typeof import('node:https') {
  return process.getBuiltinModule(url.protocol === 'https:' ? 'node:https' : 'node:http') as typeof import('node:https')
}

async function whole(message: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = []
  let length = 0
  for await (const chunk of message as AsyncIterable<Buffer>) {
    length += chunk.length
    if (length > MOST_BYTES) {
      message.destroy()
      throw new StoreError('answer', 'it is longer than 64 MiB')
    }
    chunks.push(chunk)
  }
  if (!message.complete) throw new StoreError('unreachable', 'the connection broke in the middle of the answer')
  return Buffer.concat(chunks).toString('utf8')
}

/** Ends a request that takes too long, or whose caller has ended it. */
class TimeLimit {
  readonly #controller = new AbortController()
  readonly #outer: AbortSignal | undefined
  readonly #timeout: number
  #timer: NodeJS.Timeout | null
  #isOver = false

  constructor({ timeout, signal }: HttpRequest) {
    this.#outer = signal
    this.#timeout = timeout
    this.#timer = setTimeout(() => {
      this.#isOver = true
      this.#controller.abort()
    }, timeout)
    if (signal?.aborted) this.#controller.abort()
    else signal?.addEventListener('abort', this.#end)
  }

  readonly #end = () => this.#controller.abort()

  get signal(): AbortSignal {
    return this.#controller.signal
  }

  /** The answer has begun, and may go on for as long as it wants. */
  began(): void {
    if (this.#timer !== null) clearTimeout(this.#timer)
    this.#timer = null
  }

  clear(): void {
    this.began()
    this.#outer?.removeEventListener('abort', this.#end)
  }

  /** Why a request has failed. */
  reason(error: unknown, url: URL): unknown {
    if (this.#outer?.aborted) return this.#outer.reason
    if (this.#isOver) return new StoreError('timeout', `${url.host} gave no answer within ${this.#timeout / 1000} s`)
    return toFailure(error, url)
  }
}
