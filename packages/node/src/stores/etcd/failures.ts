import { StoreError } from '@mappa/core/store/store-error'
import type { Answer } from './answer.ts'

/** What etcd says when the token of a user is no longer good. */
class TokenFailure extends StoreError {}

/** What etcd says when changes that were asked for are forgotten already. */
export class Compacted extends StoreError {}

/** True where a new token may help. */
export function isTokenFailure(error: unknown): boolean {
  return error instanceof TokenFailure
}

/** What etcd says, and what that means; the code of gRPC where the sentence is not known. */
const SAYINGS: readonly (readonly [says: RegExp, make: () => StoreError])[] = [
  [
    /invalid auth token|auth token is not provided/i,
    () => new TokenFailure('denied', 'its token for the user has expired'),
  ],
  // Also what a member says to a token that it has forgotten.
  [/user name is empty/i, () => new TokenFailure('denied', 'it asks for a user name and a password')],
  [
    /authentication failed|invalid user ID or password/i,
    () => new StoreError('denied', 'the user name or the password is wrong'),
  ],
  [
    /authentication is not enabled/i,
    () => new StoreError('denied', 'it has no users: leave out username and password'),
  ],
  [/permission denied/i, () => new StoreError('denied', 'the role of the user does not allow it')],
  [/required revision has been compacted/i, () => new Compacted('refused', 'older changes are forgotten')],
  [
    /database space exceeded/i,
    () => new StoreError('refused', 'its disk space is used up: an alarm is set, and only reading is allowed'),
  ],
  [/request is too large/i, () => new StoreError('refused', 'the values are larger than it takes in one change')],
  [/too many operations/i, () => new StoreError('refused', 'there are more changes than it takes at once')],
  [/corrupt/i, () => new StoreError('refused', 'it says that its data are damaged')],
]

/** Codes of gRPC for what another member, or the same one in a moment, may do. */
const PASSING: ReadonlySet<number> = new Set([1, 4, 8, 10, 14])

/** True for a status of HTTP that may be another one in a moment. */
export function isPassing(status: number): boolean {
  return status === 408 || status === 429 || status === 502 || status === 503 || status === 504
}

/**
 * What an answer says is wrong; `null` where it is none that says so.
 *
 * @param status that of HTTP
 */
export function findFailure(answer: Answer, status: number): StoreError | null {
  const {
    error,
    message = error,
    code,
  } = (typeof answer.error === 'object' && answer.error !== null ? answer.error : answer) as Record<string, unknown>
  const said = typeof message === 'string' ? message : ''
  if (status < 400 && said === '' && error === undefined) return null
  const known = SAYINGS.find(([says]) => says.test(said))
  if (known !== undefined) return known[1]()
  // Messages of etcd name no values; anything else in the way may say what it likes.
  const quoted = /^(?:etcdserver|etcdhttp|mvcc|auth|raft|rpc|grpc|context)[\w :,.-]*$/.test(said)
    ? `: ${said.slice(0, 120)}`
    : ''
  if (PASSING.has(Number(code)) || isPassing(status))
    return new StoreError('unreachable', `a member can't answer at the moment${quoted}`)
  if (status === 404) return new StoreError('answer', 'there is no gateway of etcd 3.4 or later at this address')
  return new StoreError(
    status === 401 || status === 403 ? 'denied' : 'refused',
    `it answers with the status ${status}${quoted}`,
  )
}
