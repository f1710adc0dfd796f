import { isRandom } from './shapes.ts'
import {
  ABOUT,
  ADDRESS,
  CONNECTION,
  DIGEST,
  LABEL,
  MAYBE,
  NEUTRAL,
  OF_PROGRAMS,
  OF_SECRETS,
  PLACES,
  SECRET,
} from './vocabulary.ts'

/**
 * The words of a name, in small letters: `domeApiKey`, `DOME_API_KEY` and `dome-api-key` are all dome, api, key.
 *
 * @param name an identifier, a key, or a header
 */
export function listWords(name: string): readonly string[] {
  const known = KNOWN.get(name)
  if (known !== undefined) return known
  const words = split(name)
  if (KNOWN.size >= MOST_KNOWN) KNOWN.clear()
  KNOWN.set(name, words)
  return words
}

/** The words of names that were asked for: a program has few names, and asks for them often. */
const KNOWN = new Map<string, readonly string[]>()
/** More names than these are not kept. */
const MOST_KNOWN = 5000

function split(name: string): readonly string[] {
  return name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .flatMap((word) => GLUED.exec(word)?.slice(1) ?? [word])
    .filter((word) => word !== '')
}

/** Words that programs write together: `PGPASSWORD`, `dbpassword`. */
const GLUED =
  /^(pg|db|my|mysql|redis|smtp|ftp|mail|mq|user|root|admin|app)(password|passwd|pass|pwd|secret|token|host|port|url)$/

/** True for what people call things: a header, a variable, a key. A text that may be a value, or an address, names nothing. */
export function isTellingName(name: string): boolean {
  if (!/^[\p{L}_$@#][\p{L}\p{N}_$ .:@-]{0,39}$/u.test(name) || name.includes('://')) return false
  return (name.match(/\d/g)?.length ?? 0) <= 2 && !isRandom(name)
}

/** `endpoints` and `keys` say what one of them is. */
function toSingular(word: string): string {
  return word.length > 3 && word.endsWith('s') && !word.endsWith('ss') && SINGULARS.has(word.slice(0, -1))
    ? word.slice(0, -1)
    : word
}

/** What a name says about the value it is given to. */
export type NameMeaning = 'secret' | 'maybe secret' | 'port' | 'address' | 'connection' | 'digest' | 'label' | null

const SINGULARS: ReadonlySet<string> = new Set([...SECRET, ...MAYBE, ...ADDRESS, ...LABEL])

/**
 * What a row of names says, the innermost first and foremost.
 *
 * @param names as in `SourceLiteral`
 * @param variable the variable that the value stands in for; it is the innermost name then
 */
export function classifyMeaning(names: readonly string[], variable: string | null = null): NameMeaning {
  const own = classifyLast(names)
  if (own !== null) return own
  // Where the innermost name is one of a stage or of a variable, the one around it says what the value is.
  const neutral = variable !== null || listWords(names.at(-1) ?? '').every((word) => NEUTRAL.has(word))
  return neutral ? classifyLast(names.slice(0, -1)) : null
}

function classifyLast(names: readonly string[]): NameMeaning {
  const innermost = listWords(names.at(-1) ?? '').map(toSingular)
  const last = innermost.at(-1)
  if (last === undefined) return null
  if (innermost.some((word) => DIGEST.has(word))) return 'digest'
  if (isHalfOfPair(last, innermost)) return 'maybe secret'
  if (isLabel(last, innermost) || isAboutProgram(names.at(-1)!, innermost)) return 'label'
  // `tokenUrl` is where a token comes from.
  if (PLACES.has(last)) return 'address'
  if (innermost.some((word) => SECRET.has(word))) return 'secret'
  if (MAYBE.has(last) || innermost.includes('token')) {
    const around = names.slice(-2, -1).flatMap(listWords)
    return [...innermost, ...around].some((word) => OF_SECRETS.has(word)) ? 'secret' : 'maybe secret'
  }
  if (last === 'port') return 'port'
  if (innermost.some((word) => ADDRESS.has(word))) return 'address'
  return innermost.some((word) => CONNECTION.has(word)) ? 'connection' : null
}

/** True for `accessKeyId` and the like: half of a pair, which goes where the other half goes. */
function isHalfOfPair(last: string, words: readonly string[]): boolean {
  return last === 'id' && (words.includes('key') || words.includes('client'))
}

/** True for what only tells values apart, such as the key of a list or of a cache. */
function isLabel(last: string, words: readonly string[]): boolean {
  // `HostName` is no label.
  if (last === 'name' && words.at(-2) === 'host') return false
  return LABEL.has(last) || (last === 'key' && words.some((word) => LABEL.has(word) || OF_PROGRAMS.has(word)))
}

/** True for what a program says of itself: `homepage_uri`, `__url__`. */
function isAboutProgram(name: string, words: readonly string[]): boolean {
  return words.some((word) => ABOUT.has(word)) || /^__\w+__$/.test(name)
}
