import { isNoAnswer, mayPass, StoreError } from '@mappa/core/store/store-error'
import { Connections, type HttpAnswer } from '../../http/send.ts'
import type { Answer } from './answer.ts'
import { findFailure, isPassing, isTokenFailure } from './failures.ts'
import type { CheckedOptions } from './options.ts'

/** What goes with a call. */
export interface Call {
  readonly signal?: AbortSignal
  /** Throws a {@link StoreError} for an answer that can't be used, so that the next member is asked. */
  readonly check?: (answer: Answer) => void
}

/**
 * The JSON gateway of etcd (version 3.4 and later), at whichever member answers. What differs between versions is here and in
 * `failures.ts` alone.
 */
export class Gateway {
  readonly #options: CheckedOptions
  readonly #connections: Connections
  /** The member that answered last. */
  #current = 0
  #token: Promise<string> | null = null

  constructor(options: CheckedOptions) {
    this.#options = options
    this.#connections = new Connections(options.tls)
  }

  /**
   * Asks for something, one member after the other: also where one can't be trusted, or something before it answers in its place.
   *
   * @param path below `/v3/`: `kv/range`
   * @throws {StoreError} where none gives an answer, or one refuses
   */
  async call(path: string, body: object, call: Call = {}): Promise<Answer> {
    return this.#withToken(call, (headers) =>
      this.#atAnyMember(call, async (member) => {
        const answer = parse(await this.#post(member, path, body, headers, call))
        call.check?.(answer)
        return answer
      }),
    )
  }

  /**
   * Asks one member for answers that go on, until it ends them.
   *
   * @param onAnswer is given each; what it throws ends the stream
   * @throws {StoreError} where the connection breaks, so that another member can be asked
   */
  async stream(path: string, body: object, onAnswer: (answer: Answer) => void, call: Call = {}): Promise<void> {
    const member = this.#current
    try {
      await this.#withToken(call, (headers) => {
        // A member without a leader would say nothing at all.
        const asked = { url: this.#url(member, path), headers: { ...headers, 'grpc-metadata-hasleader': 'true' } }
        const request = { ...asked, body: JSON.stringify(body), timeout: this.#options.memberTimeout, ...call }
        let status = 0
        return this.#connections.stream(
          request,
          (begun) => {
            status = begun
          },
          (line) => {
            const answer = parse({ status, text: line, contentType: 'application/json' })
            onAnswer((answer.result ?? answer) as Answer)
          },
        )
      })
    } catch (error) {
      if (isNoAnswer(error)) this.#leave(member)
      throw error
    }
  }

  /** How many members there are. */
  get size(): number {
    return this.#options.endpoints.length
  }

  /** The next member is asked first from now on. */
  turn(): void {
    this.#leave(this.#current)
  }

  close(): void {
    this.#connections.close()
  }

  async #atAnyMember<Result>({ signal }: Call, ask: (member: number) => Promise<Result>): Promise<Result> {
    const failures: (readonly [member: number, error: StoreError])[] = []
    for (const _ of this.#options.endpoints) {
      const member = this.#current
      try {
        return await ask(member)
      } catch (error) {
        if (!isNoAnswer(error) || signal?.aborted) throw error
        failures.push([member, error as StoreError])
        this.#leave(member)
      }
    }
    throw this.#combineFailures(failures)
  }

  /** One failure for those of all members: it may pass where one of them may. */
  #combineFailures(failures: readonly (readonly [member: number, error: StoreError])[]): StoreError {
    const [, first] = failures[0]!
    if (failures.length === 1) return first
    const { kind } = failures.find(([, error]) => mayPass(error))?.[1] ?? first
    const reasons = failures.map(([member, { reason }]) => {
      const { host } = new URL(this.#options.endpoints[member]!)
      return reason.startsWith(host) ? reason : `${host}: ${reason}`
    })
    return new StoreError(kind, [...new Set(reasons)].join('; '))
  }

  #leave(member: number): void {
    if (this.#current === member) this.#current = (member + 1) % this.#options.endpoints.length
  }

  #post(member: number, path: string, body: object, headers: Readonly<Record<string, string>>, call: Call) {
    const timeout = this.#options.memberTimeout
    return this.#connections.send({
      url: this.#url(member, path),
      headers,
      body: JSON.stringify(body),
      timeout,
      ...call,
    })
  }

  #url(member: number, path: string): URL {
    return new URL(`/v3/${path}`, this.#options.endpoints[member])
  }

  /** Does something as the user, once more if the token of the user has become old meanwhile. */
  async #withToken<Result>(
    call: Call,
    act: (headers: Readonly<Record<string, string>>) => Promise<Result>,
  ): Promise<Result> {
    const plain = { 'content-type': 'application/json' }
    const { user } = this.#options
    if (user === null) return act(plain)
    this.#token ??= this.#authenticate(user, call)
    const used = this.#token
    try {
      return await act({ ...plain, authorization: await used })
    } catch (error) {
      if (this.#token === used) this.#token = null
      if (!isTokenFailure(error)) throw error
      this.#token ??= this.#authenticate(user, call)
      return act({ ...plain, authorization: await this.#token })
    }
  }

  async #authenticate({ name, password }: { name: string; password: string }, call: Call): Promise<string> {
    const { token } = await this.#atAnyMember(call, async (member) =>
      parse(
        await this.#post(member, 'auth/authenticate', { name, password }, { 'content-type': 'application/json' }, call),
      ),
    )
    if (typeof token !== 'string') throw new StoreError('answer', 'it gives no token to the user')
    return token
  }
}

/** The answer, or what it says is wrong. */
function parse({ status, text, contentType }: HttpAnswer): Answer {
  let answer: unknown
  try {
    answer = JSON.parse(text)
  } catch {
    // What stands before a member answers for one that it can't reach.
    if (isPassing(status)) throw new StoreError('unreachable', `it answers with the status ${status}`)
    const what = /html/i.test(contentType) || /^\s*</.test(text) ? 'a page of HTML' : 'something else than JSON'
    if (status === 404) throw new StoreError('answer', 'there is no gateway of etcd 3.4 or later at this address')
    throw new StoreError('answer', `it is ${what}, with the status ${status}`)
  }
  if (typeof answer !== 'object' || answer === null) throw new StoreError('answer', 'it is no JSON object')
  const failure = findFailure(answer as Answer, status)
  if (failure !== null) throw failure
  return answer as Answer
}
