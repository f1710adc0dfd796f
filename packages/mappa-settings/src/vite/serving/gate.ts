import type { IncomingMessage, OutgoingHttpHeaders, ServerResponse } from 'node:http'
import { answerCondition } from './conditions.ts'
import { isOwn } from './own-answers.ts'

/** Says what is in an answer; a text with the name of what is refused, or `null` where it may be seen. */
export type SearchAnswer = (answer: { readonly url: string; readonly bytes: Buffer }) => Promise<string | null>

/** What a gate works with. */
export interface Gate {
  readonly searchAnswer: SearchAnswer
  /** Is told of an answer that is too large to be looked at, by its address. */
  readonly reportLarge: (url: string) => void
  /** True for the address of an answer that was too large before. */
  readonly isLarge: (url: string) => boolean
  /** Where open pages ask whether something is wrong; `null` where nobody answers them. */
  readonly askPath: string | null
}

/** Answers that are larger go out as they are, in bytes: 32 MiB. Whoever asks for one would wait for seconds. */
export const MAX_HELD_BYTES = 32 * 1024 * 1024
/** Of an answer that goes out piece by piece, so many bytes are looked at together with the next piece. */
const WINDOW_BYTES = 64 * 1024

/**
 * Holds an answer back until all of it was looked at, whoever makes it and whatever its request says. An answer of unknown length that is
 * made piece by piece is looked at piece by piece, each together with the one before.
 */
export function guardAnswer(request: IncomingMessage, response: ServerResponse, gate: Gate): void {
  if (request.method === 'HEAD') return
  // Whoever asks for a piece of what is too large gets it from whoever has the whole; it was told before.
  if (request.headers.range !== undefined && gate.isLarge(getUrl(request))) return
  const held = new HeldAnswer(request, response, gate)
  response.writeHead = held.writeHead as never
  response.write = held.write as never
  response.end = held.end as never
  response.flushHeaders = held.flushHeaders
}

const getUrl = (request: IncomingMessage) => (request as { originalUrl?: string }).originalUrl ?? request.url ?? '/'

/**
 * What becomes of an answer: it is held as a whole, is looked at piece by piece, goes out as it is, or is refused, and what is still
 * made of it goes nowhere.
 */
type Passage = 'held' | 'pieces' | 'open' | 'refused'

class HeldAnswer {
  readonly #request: IncomingMessage
  readonly #response: ServerResponse
  readonly #gate: Gate
  readonly #url: string
  /** What the request asks for that is decided here, when the whole answer is known. */
  readonly #asked: IncomingMessage['headers']
  readonly #own: Pick<ServerResponse, 'writeHead' | 'write' | 'end' | 'flushHeaders'>
  #pieces: Buffer[] = []
  #size = 0
  #passage: Passage = 'held'
  /** What is looked at together with the next piece. */
  #window: Buffer = Buffer.alloc(0)
  /** The status with which the answer was ended; `null` before that. */
  #ended: number | null = null
  /** Each piece waits for the one before. */
  #last: Promise<void> = Promise.resolve()

  constructor(request: IncomingMessage, response: ServerResponse, gate: Gate) {
    this.#request = request
    this.#response = response
    this.#gate = gate
    this.#url = getUrl(request)
    this.#asked = { ...request.headers }
    // What is packed, cut out, or not sent at all can't be looked at.
    for (const header of ['accept-encoding', 'if-none-match', 'if-modified-since', 'if-range', 'range'])
      delete request.headers[header]
    const { writeHead, write, end, flushHeaders } = response
    this.#own = { writeHead, write, end, flushHeaders }
  }

  readonly writeHead = (status: number, ...rest: (string | OutgoingHttpHeaders | readonly string[] | undefined)[]) => {
    const response = this.#response
    response.statusCode = status
    const [message, headers] = typeof rest[0] === 'string' ? [rest[0], rest[1]] : [undefined, rest[0]]
    if (message !== undefined) response.statusMessage = message
    for (const [name, value] of listHeaders(headers)) response.setHeader(name, value)
    return response
  }

  readonly write = (piece: Uint8Array | string, ...rest: unknown[]): boolean => {
    const { encoding, done } = readArguments(rest)
    if (this.#ended === null) {
      this.#openPieces()
      this.#add(toBytes(piece, encoding))
    }
    done?.()
    return !this.#response.writableNeedDrain
  }

  readonly end = (...words: unknown[]) => {
    // Who is asked behind the one that has answered changes nothing.
    if (this.#ended !== null) return this.#response
    this.#ended = this.#response.statusCode
    Object.defineProperty(this.#response, 'writableEnded', { value: true, configurable: true })
    const [piece, ...rest] = typeof words[0] === 'function' ? [undefined, words[0]] : words
    const { encoding, done } = readArguments(rest)
    if (piece !== undefined && piece !== null) this.#add(toBytes(piece as string, encoding))
    this.#addStep(() => this.#finish())
    if (done !== undefined) this.#response.once('finish', done)
    return this.#response
  }

  readonly flushHeaders = (): void => {
    this.#openPieces()
    if (this.#passage === 'pieces') this.#addStep(async () => this.#own.flushHeaders.call(this.#withHeaders()))
  }

  /** What has no length is made as long as somebody listens, so it can't be held back. */
  #openPieces(): void {
    const isOfUnknownLength = this.#response.getHeader('content-length') === undefined
    if (isOfUnknownLength && this.#passage === 'held' && this.#pieces.length === 0) this.#passage = 'pieces'
  }

  /** Gives the answer back to Node, whose methods call each other. */
  #release(): ServerResponse {
    Reflect.deleteProperty(this.#response, 'writableEnded')
    return Object.assign(this.#response, this.#own)
  }

  /** The answer, whose headers Node itself may send now. */
  #withHeaders(): ServerResponse {
    this.#response.writeHead = this.#own.writeHead
    return this.#response
  }

  #send(piece: Buffer): void {
    this.#own.write.call(this.#withHeaders(), piece as never, 'utf8' as never)
  }

  #add(piece: Buffer): void {
    if (this.#passage === 'pieces') this.#addStep(() => this.#pass(piece))
    else if (this.#passage === 'open') this.#send(piece)
    else if (this.#passage === 'held') {
      this.#pieces.push(piece)
      this.#size += piece.length
      if (this.#size > MAX_HELD_BYTES) this.#openAnswer()
    }
  }

  /** Lets out what was held, and all that comes, no faster than it is taken. Nothing waits before it. */
  #openAnswer(): void {
    this.#passage = 'open'
    this.#gate.reportLarge(this.#url)
    for (const each of this.#pieces.splice(0)) this.#send(each)
  }

  /** Looks at a piece and what was before it, and sends it. */
  async #pass(piece: Buffer): Promise<void> {
    if (this.#passage === 'refused') return
    const bytes = Buffer.concat([this.#window, piece])
    const refused = await this.#gate.searchAnswer({ url: this.#url, bytes })
    this.#window = bytes.subarray(-WINDOW_BYTES)
    if (refused === null) this.#send(piece)
    else await this.#refuse(refused)
  }

  async #finish(): Promise<void> {
    if (this.#passage === 'refused') return
    if (this.#passage !== 'held') return void this.#release().end()
    const bytes = Buffer.concat(this.#pieces)
    const isKnown = bytes.length === 0 || isOwn(this.#response)
    const refused = isKnown ? null : await this.#gate.searchAnswer({ url: this.#url, bytes })
    if (refused !== null) return this.#refuse(refused)
    if (this.#ended !== null) this.#response.statusCode = this.#ended
    const body = answerCondition(this.#asked, this.#response, bytes)
    this.#release().end(body)
  }

  /** Breaks the answer off, or puts another one into its place. Who still writes to it must not reach Node, which would throw. */
  async #refuse(refused: string): Promise<void> {
    this.#passage = 'refused'
    if (this.#response.headersSent) return void this.#response.destroy()
    const { refuseAnswer } = await import('./refuse-answer.ts')
    const body = refuseAnswer(this.#request, this.#response, refused, this.#gate.askPath)
    this.#own.end.call(this.#withHeaders(), body as never, 'utf8' as never)
  }

  #addStep(next: () => Promise<void>): void {
    this.#last = this.#last.then(next).catch((error: Error) => void this.#response.destroy(error))
  }
}

function listHeaders(headers: unknown): readonly (readonly [string, string])[] {
  if (headers === undefined || headers === null) return []
  if (!Array.isArray(headers))
    return Object.entries(headers as Record<string, string>).filter(([, each]) => each != null)
  return headers.flatMap((each, at) => (at % 2 === 0 ? [[String(each), String(headers[at + 1])] as const] : []))
}

function readArguments(rest: readonly unknown[]): {
  readonly encoding: BufferEncoding
  readonly done: (() => void) | undefined
} {
  const encoding = rest.find((each) => typeof each === 'string') as BufferEncoding | undefined
  return { encoding: encoding ?? 'utf8', done: rest.find((each) => typeof each === 'function') as () => void }
}

const toBytes = (piece: Uint8Array | string, encoding: BufferEncoding) =>
  typeof piece === 'string' ? Buffer.from(piece, encoding) : Buffer.from(piece)
