import type { SourceLiteral } from '@mappa/source/source'

/** A value and what it is given or passed to. */
type Given = Pick<SourceLiteral, 'value' | 'names' | 'callee'>

/** Functions and classes that connect to a service, by what they are called. */
export const CONNECTING =
  /client|connect|smtp|redis|memcache|socket|broker|mailer|transport|producer|consumer|jedis|amqp|mqtt|kafka|mongo|mysql|postgres|imap|ldap|ftp|dial|relay|session/i
/** Ports that services listen on, whatever they are given to. */
const SERVICE_PORTS: ReadonlySet<number> = new Set([
  21, 22, 25, 110, 143, 389, 465, 587, 636, 993, 995, 1433, 1521, 1883, 2525, 3306, 4222, 5432, 5672, 6379, 8883, 9042,
  9092, 9200, 11211, 27017,
])
/** What cloud services call what a program of one stage uses. */
const RESOURCES: Readonly<Record<string, RegExp>> = {
  bucket: /^[a-z0-9](?=[a-z0-9.-]*[.-])[a-z0-9.-]{2,62}$/,
  queue: /^[A-Za-z0-9](?=[\w.-]*-)[\w.-]{2,79}$/,
  table: /^[A-Za-z0-9](?=[\w.-]*-)[\w.-]{2,79}$/,
  topic: /^[A-Za-z0-9](?=[\w.-]*-)[\w.-]{2,79}$/,
  region: /^[a-z]{2,}(?:-[a-z]+)+-\d$/,
}
const RESOURCE_NAME = /^(?:\w*[_-])?(bucket|queue|table|topic|region)(?:[_-]?name)?$/i
const EMAIL = /^(?:[^<>@]{1,60}<)?[\w.+-]+@[\w-]+(?:\.[\w-]+)+>?$/
/** Who a message comes from. */
const SENDER =
  /^(?:from|sender|reply_?to|(?:default_?|mail_?|email_?)*from(?:_?(?:e?mail|address|addr))?|sender_?(?:e?mail|address))$/i
/** A short name of who gave the key out, what it is for, and digits and letters at random. */
const ISSUED = /^[a-z]{2,6}_(?:live|prod|production|test|sandbox|secret|sk|pk)_(?=(?:[A-Za-z]*\d){3})[A-Za-z0-9]{10,}$/i

/** True for the port of a service that is passed to what connects to it: `createClient(6379, ...)`. */
export function isServicePort(port: number, callee: string | null): boolean {
  return callee !== null && CONNECTING.test(callee) && SERVICE_PORTS.has(port)
}

/** True for the name of a function that connects to a service. */
export function isConnecting(callee: string | null): boolean {
  return callee !== null && CONNECTING.test(callee)
}

/** What kind of resource a value names, such as `bucket`; `null` if none. */
export function getResource({ value, names }: Given): string | null {
  const kind = RESOURCE_NAME.exec(withoutCase(names.at(-1) ?? ''))?.[1]?.toLowerCase()
  return kind !== undefined && RESOURCES[kind]!.test(value) ? kind : null
}

/** True for the sender of messages. */
export function isSender({ value, names }: Given): boolean {
  const [around, own = ''] = names.slice(-2).length > 1 ? names.slice(-2) : [undefined, names.at(-1)]
  const isOwn = SENDER.test(own) || (/^(?:e?mail|address)$/i.test(own) && SENDER.test(around ?? ''))
  return isOwn && EMAIL.test(value)
}

/** True for a key that says itself who gave it out. */
export function isIssuedKey(value: string): boolean {
  return ISSUED.test(value)
}

/** True for a short key in hexadecimal digits, which could be a color elsewhere. */
export function isShortHexKey(value: string): boolean {
  return /^(?=.*\d)(?=.*[a-f])[0-9a-f]{8,}$/.test(value)
}

/** `BucketName` and `bucketName` as `bucket_name`. */
function withoutCase(name: string): string {
  return name.replace(/([a-z0-9])([A-Z])/g, '$1_$2')
}
