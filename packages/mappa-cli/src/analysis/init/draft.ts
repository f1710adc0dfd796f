import { holdsCredential } from '@mappa/core/credentials/credentials'
import { CONNECTION } from '@mappa/core/credentials/vocabulary'
import { classifyMeaning, listWords } from '@mappa/core/credentials/words'
import type { TakenAs } from '@mappa/source/source'
import { keysOfVariable, PREFIX_OF_TOOL } from '../survey/propose.ts'

/** A setting as it could stand in a new definition. */
export interface DraftSetting {
  /** Variable name, as it is in use already. */
  readonly name: string
  /** The keys of its path. */
  readonly keys: readonly [string, string]
  readonly kind: 'string' | 'integer' | 'number' | 'boolean' | 'port' | 'url' | 'list'
  readonly secret: boolean
  readonly optional: boolean
  /** True where pages read it as it is. */
  readonly public: boolean
  /** What the code takes where there is no value, and that is no secret. */
  readonly default: string | number | boolean | readonly string[] | null
}

/** What is known of a variable. */
export interface Variable {
  /** The values it has in files, in whatever stage; none where it is only read. */
  readonly values: readonly string[]
  /** True where the code does without it, and a stage has none. */
  readonly isDoneWithout: boolean
  /** True where the code needs it to be there. */
  readonly needed: boolean
  /** True where it is read as part of what a bundler builds, and nowhere else. */
  readonly built: boolean
  /** What the code makes of the text, as far as that is to be seen. */
  readonly takenAs: TakenAs | null
  /** True where what the code takes in its place looks like a secret. */
  readonly isSecret: boolean
  /** What the code takes where it is not there; `null` where nothing is known of that. */
  readonly fallback: string | null
}

/**
 * Drafts a setting from what is known of a variable.
 */
export function draftSetting(name: string, variable: Variable): DraftSetting {
  const { values, isDoneWithout, needed, built, takenAs, isSecret } = variable
  // An empty text is what code takes for no value.
  const fallback = variable.fallback === '' ? null : variable.fallback
  const meaning = classifyMeaning([name])
  const all = [...values, ...(fallback === null ? [] : [fallback])]
  const isSecretByName = meaning === 'secret' || meaning === 'maybe secret' || (all.length === 0 && isConnection(name))
  const secret = isSecret || isSecretByName || all.some(holdsCredential)
  const kind = getKind(
    name,
    all.filter((value) => value !== ''),
    takenAs,
  )
  const isDefault = fallback !== null && !secret
  const lacks =
    values.length === 0 ? !needed && fallback === null : isDoneWithout || values.some((value) => value === '')
  return {
    name,
    keys: keysOfVariable(name),
    kind,
    secret,
    optional: lacks && !isDefault,
    // What stands in a page is public; a secret there is a fault, which the build tells.
    public: built && !secret,
    default: isDefault ? toDefault(fallback, kind) : null,
  }
}

/** `DATABASE_URL`: what opens a service has a password in it, in one stage or another. */
function isConnection(name: string): boolean {
  const words = listWords(name)
  if (words.includes('dsn') || /\bconnection string$/.test(words.join(' '))) return true
  return /^(?:ur[li]|connection|conn)$/.test(words.at(-1) ?? '') && words.some((word) => CONNECTION.has(word))
}

function toDefault(fallback: string | null, kind: DraftSetting['kind']): DraftSetting['default'] {
  if (kind === 'list') return fallback?.split(',').map((each) => each.trim()) ?? null
  if (kind === 'boolean') return /^(?:true|yes|on|1)$/i.test(fallback ?? '')
  return kind === 'port' || kind === 'integer' || kind === 'number' ? Number(fallback) : fallback
}

/** What a variable without values is, by its name and by what the code makes of it. */
function inferKind(name: string, takenAs: TakenAs | null): DraftSetting['kind'] {
  if (/(^|_)PORT$/i.test(name)) return 'port'
  if (takenAs !== null) return takenAs
  return /(^|_)UR[LI]$/i.test(name) ? 'url' : 'string'
}

/** What all values are, if they are all one thing. What the code makes of them decides: a value that does not fit is a wrong one. */
function getKind(name: string, values: readonly string[], takenAs: TakenAs | null): DraftSetting['kind'] {
  const all = (pattern: RegExp) => values.every((value) => pattern.test(value))
  if (values.length === 0 || takenAs !== null) return inferKind(name, takenAs)
  if (all(/^[1-9]\d{1,4}$/) && /(^|_)PORT$/i.test(name)) return 'port'
  if (all(/^(true|false|yes|no|on|off)$/i)) return 'boolean'
  if (all(/^-?(0|[1-9]\d{0,14})$/)) return 'integer'
  if (all(/^-?(0|[1-9]\d*)\.\d+$/)) return 'number'
  // Several addresses in one text are none.
  return all(/^[a-z][a-z0-9+.-]*:\/\/(?!\S*,\w+:\/\/)\S+$/i) ? 'url' : 'string'
}

/** A text or a number as it is written in code. */
export function writeLiteral(value: string | number | boolean | readonly string[], quote: string): string {
  if (typeof value === 'object') return `[${value.map((each) => writeLiteral(each, quote)).join(', ')}]`
  if (typeof value !== 'string') return String(value)
  const escaped = JSON.stringify(value).slice(1, -1).replaceAll('\\"', '"')
  return quote + escaped.replaceAll(quote, `\\${quote}`) + quote
}

/** What people write in capital letters. */
const CAPITALS =
  /^(api|url|uri|id|ip|jwt|smtp|sms|dsn|sql|http|https|tls|ssl|ssh|ftp|aws|gcp|cdn|db|s3|oauth|hmac|csrf|cors)$/

/**
 * A description to begin with, from a name: `DOME_API_KEY` gives "Dome API key".
 *
 * @param name a variable name, or the keys of a path with blanks between them
 */
export function describeName(name: string): string {
  const words = listWords(name.replace(PREFIX_OF_TOOL, '')).map((word) =>
    CAPITALS.test(word) ? word.toUpperCase() : word,
  )
  const text = words.join(' ')
  return `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`
}
