import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { Store } from '@mappa/core/store/store'
import { Connections, type HttpAnswer, type TlsOptions } from '../../http/send.ts'
import { PROTOCOL, readHistory, readRevision, readState, toAnswerFailure } from './answers.ts'

/** Options of {@link httpStore}. */
export interface HttpStoreOptions {
  /** The address below which the service answers, such as `https://hosting.fernhollow.example/v1/projects/dome-api`. */
  readonly url: string
  /** What the service knows this program by. It goes to this address and to no other. */
  readonly token: string
  /**
   * What connections are secured with.
   * @default the certificates that come with Node
   */
  readonly tls?: TlsOptions
  /**
   * How long one answer may take, in milliseconds.
   * @default 5000
   */
  readonly timeout?: number
}

/**
 * A store over HTTP, as `docs/store-protocol.md` describes it: the service lists names and keyed digests, takes new values, and gives
 * no secret back.
 *
 * @throws {SettingsError} where options are wrong; nothing is connected to before something is asked for
 * @example
 * ```ts
 * const store = httpStore({
 *   url: 'https://hosting.fernhollow.example/v1/projects/dome-api',
 *   token: process.env.HOSTING_TOKEN ?? '',
 * })
 * const { entries } = await store.read('production')
 * ```
 */
export function httpStore(options: HttpStoreOptions): Store {
  const { base, token, tls, timeout } = checkOptions(options)
  const connections = new Connections(tls)
  const headers = { authorization: `Bearer ${token}`, accept: 'application/json' }
  const ask = async (
    method: 'GET' | 'PUT',
    stage: string,
    below: string,
    body: object | null,
    signal: AbortSignal | undefined,
  ): Promise<HttpAnswer> => {
    const url = new URL(`${base.href}/stages/${encodeURIComponent(stage)}${below}`)
    const answer = await connections.send({
      url,
      method,
      timeout,
      headers: body === null ? headers : { ...headers, 'content-type': 'application/json' },
      ...(body === null ? {} : { body: JSON.stringify(body) }),
      ...(signal === undefined ? {} : { signal }),
    })
    const failure = toAnswerFailure(answer)
    if (failure !== null) throw failure
    return answer
  }
  return {
    id: 'http',
    isWhole: true,
    describe: () => `${base.host}${base.pathname.replace(/\/$/, '')}`,
    read: async (stage, { signal } = {}) => readState(await ask('GET', stage, '', null, signal), stage),
    async write(changes, { stage, revision }, { signal, by } = {}) {
      const body = { protocol: PROTOCOL, expected: revision, ...(by === undefined ? {} : { by }), changes }
      return readRevision(await ask('PUT', stage, '', body, signal))
    },
    history: async (stage, { signal } = {}) => readHistory(await ask('GET', stage, '/history', null, signal)),
    close: () => connections.close(),
  }
}

function checkOptions(options: HttpStoreOptions) {
  checkOptionNames(options, ['url', 'token', 'tls', 'timeout'], 'httpStore')
  const { url, token, tls = {}, timeout = 5000 } = options
  const problems: Problem[] = []
  const wrong = (option: string, fault: string, fix: string) => {
    problems.push(storeProblem('store-option-wrong', { option, where: 'httpStore', fault, fix }))
  }
  const base = typeof url === 'string' && URL.canParse(url) ? new URL(url.replace(/\/+$/, '')) : null
  if (
    base === null ||
    base.username !== '' ||
    base.search !== '' ||
    base.hash !== '' ||
    !/^https?:$/.test(base.protocol)
  )
    wrong(
      'url',
      'must be an address without a user and without parameters',
      'Write, for example, https://hosting.fernhollow.example/v1/projects/dome-api.',
    )
  else if (base.protocol === 'http:' && !/^(?:localhost|127\.\d+\.\d+\.\d+|\[::1\])$/.test(base.hostname))
    wrong('url', 'must begin with https://', 'A token and values would go over the network as they are.')
  if (typeof token !== 'string' || !/^[\x21-\x7e]+$/.test(token))
    wrong('token', 'must be a text without blanks', 'Take it from the environment or from a file.')
  if (!(typeof timeout === 'number' && timeout > 0 && Number.isFinite(timeout)))
    wrong('timeout', 'must be a number of milliseconds', 'Write, for example, 5000.')
  if (problems.length > 0) throw new SettingsError({ title: 'The store', stage: null, problems })
  return { base: base!, token, tls, timeout }
}
