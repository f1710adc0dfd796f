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
const MAYBE = new Set(['key', 'token', 'auth', 'authorization', 'signature', 'salt', 'cookie', 'jwt', 'license'])
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
])
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

/**
 * What a row of names says, the innermost first and foremost.
 *
 * @param names as in `SourceLiteral`
 */
export function meaningOf(names: readonly string[]): NameMeaning {
  // Where the innermost name says nothing, as that of a variable may, the one around it does.
  return meaningOfLast(names) ?? meaningOfLast(names.slice(0, -1))
}

function meaningOfLast(names: readonly string[]): NameMeaning {
  const innermost = wordsOf(names.at(-1) ?? '')
  const last = innermost.at(-1)
  if (last === undefined) return null
  if (innermost.some((word) => DIGEST.has(word))) return 'digest'
  // `accessKeyId`: half of a pair, which goes where the other half goes.
  if (last === 'id' && (innermost.includes('key') || innermost.includes('client'))) return 'maybe secret'
  if (LABEL.has(last) || (last === 'key' && innermost.some((word) => LABEL.has(word) || OF_PROGRAMS.has(word))))
    return 'label'
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
