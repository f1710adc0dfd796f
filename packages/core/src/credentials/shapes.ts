/** What the look of a value says about it, whatever it is called. */
export type Shape =
  | 'private key'
  | 'signed token'
  | 'address with a password'
  | 'connection string'
  | 'random text'
  | 'local address'
  | 'address'
  | 'port number'
  | null

/** Schemes of services that programs connect to. */
const SERVICE =
  /^(postgres(ql)?|mysql|mariadb|mongodb(\+srv)?|rediss?|amqps?|mqtts?|nats|kafka|ldaps?|smtps?|s?ftp|sqlserver|cockroachdb|clickhouse|jdbc:[a-z]+):\/\//i
/** As drivers of PHP write it, and as clients of databases do: `pgsql:host=db;dbname=dome`, `host=db password=...`. */
export const DSN =
  /^(?:pgsql|mysql|sqlsrv|oci|dblib|odbc):\w+=|^(?=(?:.*\s)?(?:host|dbname)=\S)(?:\w+=(?:'[^']*'|\S+)(?:\s+|$)){2,}$/i
/** Parts of connection strings that open something. */
export const CREDENTIAL_PART =
  /(^|[;,])\s*(password|pwd|(?:account|shared_?access|access)_?key|secret_?key)\s*=\s*[^;,\s]+/i
const HOST =
  /^(localhost|127(\.\d{1,3}){3}|0\.0\.0\.0|10(\.\d{1,3}){3}|192\.168(\.\d{1,3}){2}|172\.(1[6-9]|2\d|3[01])(\.\d{1,3}){2}|\[::1?\])(:\d{1,5})?(\/|$)/i

/** The shape of a value. */
export function toShape(value: string): Shape {
  if (/-----BEGIN ([A-Z0-9]+ )*PRIVATE KEY/.test(value)) return 'private key'
  const text = value.replace(/^(Bearer|Basic|Token|Key) +/, '')
  if (/^eyJ[\w-]{8,}\.[\w-]{8,}\.[\w-]{8,}$/.test(text)) return 'signed token'
  if (/^[a-z][a-z0-9+.-]*:\/\/[^\s/:@{}$<>]*:[^\s/@{}$<>]{2,}@[^\s/]/i.test(text)) return 'address with a password'
  // As drivers of Go write it: name:password@tcp(host:port)/database.
  if (/^[\w.-]+:[^\s@:]{2,}@(tcp|udp|unix)\(/.test(text)) return 'address with a password'
  if (DSN.test(text) || SERVICE.test(text) || CREDENTIAL_PART.test(text)) return 'connection string'
  if (HOST.test(text.replace(/^(https?|wss?|tcp):\/\//, '')) && text.length > 3) return 'local address'
  if (/^(https?|wss?|tcp|tls|ssl|grpcs?):\/\/[^\s/]+/.test(text)) return 'address'
  if (/^\d{2,5}$/.test(text) && Number(text) >= 80 && Number(text) <= 65535) return 'port number'
  return isRandom(text) ? 'random text' : null
}

/**
 * True for text that looks drawn by lot: long, of one run of characters, with letters and digits mixed, and more
 * surprising, character by character, than words are.
 */
export function isRandom(text: string): boolean {
  if (text.length < 16 || text.length > 4096 || !/^[\w+/=.~:-]+$/.test(text)) return false
  const longest = text.split(/[-_./=+~:]+/).reduce((a, b) => (b.length > a.length ? b : a), '')
  const mixed = /\d/.test(text) && /[A-Za-z]/.test(text)
  if (longest.length < 8 || !mixed) return false
  if (/^[0-9a-f]+$/i.test(longest) && longest.length >= 16)
    return measureEntropy(longest) >= 2.8 && !isSequence(longest)
  // Words with a number or two in them change between letters and digits seldom.
  const changes = longest.match(/[A-Za-z](?=\d)|\d(?=[A-Za-z])|[a-z](?=[A-Z])/g)?.length ?? 0
  return measureEntropy(text) >= 3.3 && changes >= Math.max(2, longest.length / 8) && !isSequence(text)
}

/** Bits for each character (Shannon). */
function measureEntropy(text: string): number {
  const counts = new Map<string, number>()
  for (const character of text) counts.set(character, (counts.get(character) ?? 0) + 1)
  let bits = 0
  for (const count of counts.values()) bits -= (count / text.length) * Math.log2(count / text.length)
  return bits
}

/** True for an alphabet: most characters follow the one before them. */
function isSequence(text: string): boolean {
  let following = 0
  for (let at = 1; at < text.length; at++) if (text.charCodeAt(at) === text.charCodeAt(at - 1) + 1) following++
  return following > text.length / 2
}
