/** What services begin with, what examples say, and what everybody knows. */
const KNOWN_TO_ALL =
  /^(?:|user(?:name)?|pass(?:wd|word)?|pw|secret|root|admin|postgres|mysql|mongo|redis|guest|test(?:er|ing)?|dev(?:elopment)?|local(?:host)?|example|changeme|change-me|minioadmin|x+|\*+)$/i
/** What stands in an example for a value. */
const PLACEHOLDER = /^$|^<.*>$|^\{\{.*\}\}$|^\$\{.*\}$|^\.{3}|^(?:x+|\*+|changeme|change-me|todo|your[-_ ].*)$/i
/** This machine, and names that stand for any. */
const ANY_HOST =
  /^(?:localhost|127(?:\.\d+){3}|\[::1\]|0\.0\.0\.0|host\.docker\.internal|(?:[\w-]+\.)*(?:example|test|invalid|localhost)|example\.(?:com|org|net)|[\w-]*host(?:name)?|db|database|server)$/i
/** A key that is made to be published says so. */
const PUBLISHABLE = /^pk_(?:live|test)_|^[a-z]{0,8}_?publishable_/i
const PUBLISHABLE_NAME = /(?:^|_)(?:PUBLIC|PUBLISHABLE)(?:_|$)/i

/** True for what stands in an example for a value. */
export function isPlaceholder(value: string): boolean {
  return PLACEHOLDER.test(value)
}

/**
 * True for what looks like a credential and opens nothing that is anybody's: a placeholder, a database of tests on this machine, a key that
 * is made to be published, and a reference to a manager of passwords.
 *
 * @param name the variable
 */
export function isHarmless(name: string, value: string): boolean {
  if (isPlaceholder(value) || KNOWN_TO_ALL.test(value) || PUBLISHABLE.test(value) || PUBLISHABLE_NAME.test(name))
    return true
  const address = /^[a-z][a-z0-9+.-]*:\/\/(?:([^:@/?#]*)(?::([^@/?#]*))?@)?([^/?#:]+|\[[^\]]*\])/i.exec(value)
  if (address === null) return false
  const [, user = '', password, host = ''] = address
  // Without a password it names a place, as references to managers of passwords do, unless the path or a parameter is one.
  if (password === undefined)
    return user === '' && !/[?&][^=&]*=[^&]{8,}/.test(value) && !/[A-Za-z0-9_-]{20,}/.test(value)
  // A name without a dot is one of this machine or of a compose file; what everybody knows opens a server that is named all the same.
  const isNowhere = ANY_HOST.test(host) || !host.includes('.')
  return isPlaceholder(password) || (isNowhere && (KNOWN_TO_ALL.test(password) || password === user))
}
