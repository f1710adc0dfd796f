import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { TlsOptions } from '../../http/send.ts'

/** Options of `etcdStore`. */
export interface EtcdOptions {
  /** The addresses of the members, such as `['https://etcd-1.fernhollow.example:2379']`. One that fails is followed by the next. */
  readonly endpoints: readonly string[]
  /** What stands before the stage in all keys: `fernhollow/dome-api`, for `fernhollow/dome-api/production/DOME_KEY`. */
  readonly prefix: string
  /**
   * The user of etcd.
   * @default none: for a cluster without users
   */
  readonly username?: string
  /** The password of the user. */
  readonly password?: string
  /**
   * What connections are secured with.
   * @default the certificates that come with Node
   */
  readonly tls?: TlsOptions
  /**
   * How long one member may take for an answer before the next is asked, in milliseconds.
   * @default 1500
   */
  readonly memberTimeout?: number
}

const NAMES = ['endpoints', 'prefix', 'username', 'password', 'tls', 'memberTimeout'] as const

/** What is left of the options when they are checked. */
export interface CheckedOptions {
  readonly endpoints: readonly URL[]
  readonly prefix: string
  readonly user: { readonly name: string; readonly password: string } | null
  readonly tls: TlsOptions
  readonly memberTimeout: number
}

/**
 * Checks the options of a store in etcd.
 *
 * @throws {SettingsError} naming everything that is wrong
 */
export function checkOptions(options: EtcdOptions): CheckedOptions {
  checkOptionNames(options, NAMES, 'etcdStore')
  const problems: Problem[] = []
  const wrong = (option: string, fault: string, fix: string) => {
    problems.push(storeProblem('store-option-wrong', { option, where: 'etcdStore', fault, fix }))
  }
  const { endpoints, prefix, username, password, tls = {}, memberTimeout = 1500 } = options
  const addresses = Array.isArray(endpoints) ? endpoints.map(getAddress) : []
  if (addresses.length === 0 || addresses.includes(null))
    wrong('endpoints', 'must be a list of addresses', "Write, for example, ['https://etcd-1.fernhollow.example:2379'].")
  const path = typeof prefix === 'string' ? prefix.replace(/^\/+|\/+$/g, '') : ''
  if (!/^[\w.@-]+(?:\/[\w.@-]+)*$/.test(path))
    wrong('prefix', 'must be names separated by slashes', "Write, for example, 'fernhollow/dome-api'.")
  if ((username === undefined) !== (password === undefined))
    wrong('username', 'and password belong together', 'Give both, or none for a cluster without users.')
  else if (username !== undefined && (typeof username !== 'string' || typeof password !== 'string' || username === ''))
    wrong('username', 'and password must be texts', 'Take the password from the environment or from a file.')
  if (!Number.isFinite(memberTimeout) || memberTimeout < 1)
    wrong('memberTimeout', 'must be a number of milliseconds', 'Write, for example, 1500.')
  if (problems.length > 0) throw new SettingsError({ title: 'The store', stage: null, problems })
  return {
    endpoints: addresses as URL[],
    prefix: path,
    user: username === undefined ? null : { name: username, password: password! },
    tls,
    memberTimeout,
  }
}

/** The address of a member; `null` for what is none, or holds a password that an error could show. */
function getAddress(text: unknown): URL | null {
  if (typeof text !== 'string' || !URL.canParse(text)) return null
  const url = new URL(text)
  const isPlain = url.username === '' && url.password === '' && url.search === '' && url.hash === ''
  return /^https?:$/.test(url.protocol) && isPlain ? url : null
}
