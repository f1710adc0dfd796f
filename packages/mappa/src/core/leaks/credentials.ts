import { CREDENTIAL_PART, isRandom, shapeOf } from './shapes.ts'

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
export function keysInQuery(text: string): readonly QueryKey[] {
  return [...text.matchAll(PARAMETER)].flatMap(([, name, value]) =>
    /\d|%/.test(value!) ? [{ name: name!, value: value! }] : [],
  )
}

/** An address that opens something by a key among its directories, as those of hooks do, or by a key for its user. */
export function isAddressWithKey(address: string): boolean {
  if (!/^\w+:\/\//.test(address)) return false
  const [, user = ''] = /^\w+:\/\/([^/?#@\s:]+)@/.exec(address) ?? []
  if (isRandom(user)) return true
  const [, ...directories] = address.replace(/^\w+:\/\//, '').split(/[/?#]/)
  return directories.some((each) => isRandom(each) && !/^[0-9a-f]{40}$|^[0-9a-f]{8}(-[0-9a-f]{4}){3}-/i.test(each))
}

/** A connection string with a password in it. */
export function hasPassword(text: string): boolean {
  return CREDENTIAL_PART.test(text) || /(^|\s)(password|pwd)\s*=\s*[^;\s]+|:\/\/[^/\s:@]*:[^/\s@]+@/i.test(text)
}

/** True for a value that can be nothing else than a credential, or an address that holds one. */
export function opensSomething(value: string): boolean {
  const shape = shapeOf(value)
  if (shape === 'private key' || shape === 'signed token' || shape === 'address with a password') return true
  return hasPassword(value) || isAddressWithKey(value) || keysInQuery(value).length > 0
}

/**
 * True for a value that opens something, whatever it is called: a private key, a signed token, random text, and addresses that
 * hold a password or a key in any of their parts.
 */
export function holdsCredential(value: string): boolean {
  return opensSomething(value) || shapeOf(value) === 'random text'
}
