import { isRandom } from './shapes.ts'

/**
 * The words of a name, in small letters: `domeApiKey`, `DOME_API_KEY` and `dome-api-key` are all dome, api, key.
 *
 * @param name an identifier, a key, or a header
 */
export function wordsOf(name: string): readonly string[] {
  return name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '')
}

/** True for what people call things: a header, a variable, a key. A text that may be a value, or an address, names nothing. */
export function isTellingName(name: string): boolean {
  if (!/^[\p{L}_$@#][\p{L}\p{N}_$ .:@-]{0,39}$/u.test(name) || name.includes('://')) return false
  return (name.match(/\d/g)?.length ?? 0) <= 2 && !isRandom(name)
}

/** `endpoints` and `keys` say what one of them is. */
function singular(word: string): string {
  return word.length > 3 && word.endsWith('s') && !word.endsWith('ss') && SINGULARS.has(word.slice(0, -1))
    ? word.slice(0, -1)
    : word
}

/** What a name says about the value it is given to. */
export type NameMeaning = 'secret' | 'maybe secret' | 'port' | 'address' | 'connection' | 'digest' | 'label' | null

const SECRET = new Set([
  'password',
  'passwd',
  'pwd',
  'pass',
  'pswd',
  'passphrase',
  'secret',
  'credential',
  'credentials',
  'apikey',
  'authtoken',
  'bearer',
  'pin',
  'passcode',
])
const MAYBE = new Set([
  'key',
  'token',
  'auth',
  'authorization',
  'signature',
  'salt',
  'cookie',
  'jwt',
  'license',
  'licence',
  'appid',
])
/** What makes a key or a token one to keep: `apiKey`, `private_key`. */
const OF_SECRETS = new Set([
  'api',
  'access',
  'private',
  'signing',
  'encryption',
  'session',
  'master',
  'webhook',
  'client',
  'service',
  'refresh',
  'auth',
  'admin',
  'account',
  'deploy',
  'bot',
  'shared',
  'crypto',
  'cipher',
  'hmac',
  'csrf',
])
const ADDRESS = new Set([
  'url',
  'uri',
  'endpoint',
  'host',
  'hostname',
  'origin',
  'address',
  'addr',
  'server',
  'gateway',
  'upstream',
  'backend',
  'broker',
  'domain',
  'ip',
  'base',
  'webhook',
  'hook',
  'callback',
  'redirect',
  'proxy',
  'registry',
  'service',
  'remote',
  'issuer',
  'authority',
  'api',
  'site',
  'portal',
  'feed',
  'cdn',
])
/** Words that say so whatever stands before them. */
const PLACES = new Set(['url', 'uri', 'endpoint', 'host', 'hostname', 'origin', 'address'])
const CONNECTION = new Set([
  'dsn',
  'connection',
  'database',
  'db',
  'conn',
  'redis',
  'postgres',
  'mongo',
  'mysql',
  'amqp',
])
const DIGEST = new Set([
  'hash',
  'checksum',
  'digest',
  'integrity',
  'sha',
  'sha1',
  'sha256',
  'sha512',
  'md5',
  'etag',
  'fingerprint',
  'commit',
  'revision',
  'version',
  'alphabet',
  'charset',
  'chars',
  'characters',
  'alphanumeric',
  'digits',
  'regex',
  'pattern',
  'uuid',
  'guid',
])
/** What makes a key one of the program's own: `storageKey`, `sortKey`. */
const OF_PROGRAMS = new Set([
  'storage',
  'cache',
  'local',
  'query',
  'sort',
  'primary',
  'foreign',
  'translation',
  'i18n',
  'object',
  'row',
  'index',
  'group',
  'partition',
  'lookup',
  'feature',
  'item',
  'react',
  'public',
  'shortcut',
  'hot',
  'arrow',
  'property',
  'state',
  'store',
  'flag',
])
/** The value is a word of the program itself: the name of a header or of a field, a text for people. */
const LABEL = new Set([
  'label',
  'title',
  'message',
  'text',
  'description',
  'placeholder',
  'name',
  'header',
  'field',
  'type',
  'class',
  'classname',
  'style',
  'selector',
  'id',
  'event',
  'route',
  'path',
  'pathname',
  'file',
  'filename',
  'dir',
  'folder',
  'param',
  'query',
  'column',
  'attribute',
  'prefix',
  'suffix',
  'locale',
  'lang',
  'error',
  'reason',
  'hint',
  'help',
  'schema',
  'xmlns',
  'namespace',
  'homepage',
  'docs',
  'documentation',
  'repository',
  'doc',
  'link',
  'href',
  'src',
  'import',
  'module',
  'package',
  'kind',
  'format',
  'policy',
  'strength',
  'length',
  'size',
  'rule',
  'rules',
  'validator',
  'input',
  'form',
  'regexp',
])

/** Names of one value among several that are the same thing. */
const NEUTRAL = new Set(
  'value default fallback current main primary dev development local test testing stage staging prod production live sandbox beta secondary old new a b x'.split(
    ' ',
  ),
)

const SINGULARS: ReadonlySet<string> = new Set([...SECRET, ...MAYBE, ...ADDRESS, ...LABEL])

/**
 * What a row of names says, the innermost first and foremost.
 *
 * @param names as in `SourceLiteral`
 * @param variable the variable that the value stands in for; it is the innermost name then
 */
export function meaningOf(names: readonly string[], variable: string | null = null): NameMeaning {
  const own = meaningOfLast(names)
  if (own !== null) return own
  // Where the innermost name is one of a stage or of a variable, the one around it says what the value is.
  const neutral = variable !== null || wordsOf(names.at(-1) ?? '').every((word) => NEUTRAL.has(word))
  return neutral ? meaningOfLast(names.slice(0, -1)) : null
}

function meaningOfLast(names: readonly string[]): NameMeaning {
  const innermost = wordsOf(names.at(-1) ?? '').map(singular)
  const last = innermost.at(-1)
  if (last === undefined) return null
  if (innermost.some((word) => DIGEST.has(word))) return 'digest'
  // `accessKeyId`: half of a pair, which goes where the other half goes.
  if (last === 'id' && (innermost.includes('key') || innermost.includes('client'))) return 'maybe secret'
  if (LABEL.has(last) || (last === 'key' && innermost.some((word) => LABEL.has(word) || OF_PROGRAMS.has(word))))
    return 'label'
  // `tokenUrl` is where a token comes from.
  if (PLACES.has(last)) return 'address'
  if (innermost.some((word) => SECRET.has(word))) return 'secret'
  const around = names.slice(-2, -1).flatMap(wordsOf)
  if (MAYBE.has(last) || innermost.some((word) => word === 'token')) {
    return [...innermost, ...around].some((word) => OF_SECRETS.has(word)) ? 'secret' : 'maybe secret'
  }
  if (last === 'port') return 'port'
  if (innermost.some((word) => ADDRESS.has(word))) return 'address'
  if (innermost.some((word) => CONNECTION.has(word))) return 'connection'
  return null
}
