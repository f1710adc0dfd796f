import { CREDENTIAL_PART, isRandom, toShape } from './shapes.ts'

/** The parameters of an address that are keys, by their names. */
const NAMED = '[?&](\\w*(?:key|token|secret|appid|auth|sig|password)\\w*)='

/** The beginning of such a parameter. */
export const KEY_PARAMETER = new RegExp(NAMED, 'i')
const PARAMETER = new RegExp(`${NAMED}(?!\\$)([\\w.~%-]{8,})`, 'gi')
/** An address with something for its user. */
export const USER_IN_ADDRESS = /:\/\/[^\s/"'`@:]{16,}@/

/** A key among the parameters of an address. */
export interface QueryKey {
  readonly name: string
  readonly value: string
}

/** The keys among the parameters of an address, in their order. */
export function findQueryKeys(text: string): readonly QueryKey[] {
  return [...text.matchAll(PARAMETER)].flatMap(([, name, value]) =>
    /\d|%/.test(value!) ? [{ name: name!, value: value! }] : [],
  )
}

/** Words of addresses that anybody may call who knows them: what stands behind one is their key, however short it is. */
const HOOK = /^(?:(?:web)?hooks?|incoming|notify|ping|alerts?|triggers?)$/i
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i

/**
 * An address that opens something by a key among its directories, as those of hooks do, or by a key for its user.
 *
 * @param isHook true where its name says that it is one of a hook
 */
export function isAddressWithKey(address: string, isHook = false): boolean {
  if (!/^\w+:\/\//.test(address)) return false
  const [, user = ''] = /^\w+:\/\/([^/?#@\s:]+)@/.exec(address) ?? []
  if (isRandom(user)) return true
  const [host = '', ...directories] = address.replace(/^\w+:\/\//, '').split(/[/?#]/)
  const hook =
    isHook || host.split('.').some((label) => HOOK.test(label))
      ? 0
      : directories.findIndex((each) => HOOK.test(each)) + 1
  const behind = hook > 0 || isHook || HOOK.test(host.split('.')[0]!) ? directories.slice(hook) : []
  if (behind.some(isShortKey)) return true
  return directories.some((each) => isRandom(each) && !/^[0-9a-f]{40}$|^[0-9a-f]{8}(-[0-9a-f]{4}){3}-/i.test(each))
}

/** One run of letters and digits that change too often for a word with a number, or a UUID. */
function isShortKey(text: string): boolean {
  if (UUID.test(text)) return true
  const changes = text.match(/[A-Za-z](?=\d)|\d(?=[A-Za-z])|[a-z](?=[A-Z])/g)?.length ?? 0
  return /^[A-Za-z0-9]{6,}$/.test(text) && /\d/.test(text) && changes >= 3
}

/** A connection string with a password in it. */
export function hasPassword(text: string): boolean {
  return CREDENTIAL_PART.test(text) || /(^|\s)(password|pwd)\s*=\s*[^;\s]+|:\/\/[^/\s:@]*:[^/\s@]+@/i.test(text)
}

/** True for a value that can be nothing else than a credential, or an address that holds one. */
export function containsCredential(value: string): boolean {
  const shape = toShape(value)
  if (shape === 'private key' || shape === 'signed token' || shape === 'address with a password') return true
  return hasPassword(value) || isAddressWithKey(value) || findQueryKeys(value).length > 0
}

/**
 * True for a value that opens something, whatever it is called: a private key, a signed token, random text, and addresses that
 * hold a password or a key in any of their parts.
 */
export function holdsCredential(value: string): boolean {
  return containsCredential(value) || toShape(value) === 'random text'
}
