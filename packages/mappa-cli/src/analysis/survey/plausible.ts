import type { SourceLiteral, WantedValue } from '@mappa/source/source'
import { CALLS, CONNECTS, KEYED, LISTENS, LOGS_IN, SIGNS as TOKENS } from './callees.ts'
import { classify, HOSTS } from './classify.ts'
import { mayBeCompanion, mayHaveCompanions } from './companions.ts'
import { classifyEach, classifyMeaning } from './meaning.ts'
import { isConnecting } from './signals.ts'

/** What has to be around a text for it to be judged a setting; several may do. */
export const WAYS = {
  /** Nothing: it is judged one by its look. */
  alone: 1,
  /** A name of a secret, or a function that takes one. */
  secret: 2,
  /** A name of an address or of a host, or a function that takes one. */
  address: 4,
  /** A name of a resource, such as a bucket. */
  resource: 8,
  /** A name of who sends a message. */
  sender: 16,
  /** A name of a port. */
  port: 32,
} as const

/** What a text has in any case that is a setting in a way, whatever it is given to. */
const SIGNS: readonly (readonly [way: number, has: RegExp])[] = [
  [WAYS.secret, /^.{6,}$|^\d{4,}$/s],
  [WAYS.address, /[.:]/],
  [WAYS.resource, /^[A-Za-z\d][\w.-]*[.-][\w.-]*$/],
  [WAYS.sender, /@/],
  [WAYS.port, /^:?\d{2,5}$/],
]
/** What a text has that may be judged a setting by its look alone. */
const LOOK =
  /:\/\/|^localhost|^(?:\d{1,3}\.){3}\d|^\[::|PRIVATE KEY|=|@|^(?=.*\d.*\d)[\w+/=.~: -]{16,}$|^[a-z]{2,6}[-_](?=.*\d.*\d.*\d)/is

/** A word as programs are full of: a setting for a function of tokens at most. `localhost` is one of its own. */
const WORD = /^(?!localhost$)[a-z]+[A-Z]?[a-z]*$/
/** What a value of several words has, if it is more than a pass phrase. */
const NOT_PROSE = /password|pwd|begin|:\/\/|authorization|host=|dbname=|localhost|@|^\S+ \S+$/i
/** More characters than a pass phrase has. */
const LONG = 64

/** True for several words that are no value. */
const isProse = (value: string) =>
  /\s/.test(value) && !NOT_PROSE.test(value) && (value.length > LONG || !/\d/.test(value))

/** What was found out about texts: programs repeat them, and each other's. */
const KNOWN = new Map<string, number>()
/** More texts than these are not kept. */
const MOST_KNOWN = 50_000
/** Longer texts are not kept, in characters. */
const LONGEST_KNOWN = 12

/**
 * The ways in which a text could be judged a setting, whatever is around it: what gives none in any of them is none anywhere.
 *
 * @returns a sum of {@link WAYS}; 0 for a text that can be no setting
 */
export function countWays(value: string): number {
  if (value.length < 4) return 0
  if (WORD.test(value)) return 0
  if (isProse(value)) return 0
  const known = KNOWN.get(value)
  if (known !== undefined) return known
  const ways = tried(value)
  // A longer one, which is seldom repeated, may keep the whole file in memory that it was cut from.
  if (value.length > LONGEST_KNOWN) return ways
  if (KNOWN.size >= MOST_KNOWN) KNOWN.clear()
  KNOWN.set(value, ways)
  return ways
}

function tried(value: string): number {
  // A header within a text, and what stands in for a variable, count for themselves.
  if (/authorization['"]?\s*[:=,]|^\$\{[\w.-]+:[^{}]{4,}\}$/i.test(value) || (LOOK.test(value) && isAlone(value)))
    return WAYS.alone
  let ways = 0
  for (const [way, has] of SIGNS) if (has.test(value)) ways |= way
  return ways
}

/** True for a text that is judged a setting without a name, under one that says nothing, or passed to something. */
function isAlone(value: string): boolean {
  return [{}, { names: ['x'] }, { callee: 'x' }].some((each) => classify({ ...NOWHERE, value, ...each }) !== null)
}

/** What a name says by itself, and what a function of that name takes. */
const KNOWN_NAMES = new Map<string, number>()

/**
 * The ways in which a text could be judged a setting that is given to a name, or passed to a function that is called so.
 *
 * @returns a sum of {@link WAYS}
 */
export function waysOfName(name: string): number {
  const known = KNOWN_NAMES.get(name)
  if (known !== undefined) return known
  const ways = waysByMeaning(name) | waysByCall(name)
  if (KNOWN_NAMES.size >= MOST_KNOWN) KNOWN_NAMES.clear()
  KNOWN_NAMES.set(name, ways)
  return ways
}

function waysByMeaning(name: string): number {
  const meaning = classifyMeaning([name]) ?? classifyEach(name)
  const resource = /bucket|queue|table|topic|region/i.test(name) ? WAYS.resource : 0
  const sender = /from|sender|reply|mail|address/i.test(name) ? WAYS.sender : 0
  const host = HOSTS.test(name) ? WAYS.address | WAYS.port : 0
  const own = resource | sender | host
  if (meaning === 'secret' || meaning === 'maybe secret') return own | WAYS.secret
  if (meaning === 'port') return own | WAYS.port
  return meaning === 'address' || meaning === 'connection' ? own | WAYS.address | WAYS.port : own
}

function waysByCall(name: string): number {
  let ways = 0
  if (CALLS.has(name) || CONNECTS.has(name) || isConnecting(name) || /request/i.test(name)) ways |= WAYS.address
  if (LISTENS.has(name)) ways |= WAYS.port
  if (KEYED.has(name) || LOGS_IN.has(name)) ways |= WAYS.secret
  return ways
}

/** A text of which nothing is known but itself. */
export const NOWHERE: SourceLiteral = {
  file: '',
  line: 1,
  column: 1,
  start: 0,
  end: 0,
  value: '',
  form: 'text',
  names: [],
  callee: null,
  variable: null,
}

/**
 * Tells the values of a text that could be judged settings, whatever is around them, so that a reader need not find that out for any
 * other.
 *
 * @param text what a file holds
 * @example
 * makePlausibilityTest('')('Literal', 'text')                 // true: a password may look like that
 * makePlausibilityTest('')('literal', 'text')                 // false
 * makePlausibilityTest('jwt.sign(a, b)')('literal', 'text')   // true: a key of tokens may be any word
 */
export function makePlausibilityTest(text: string): WantedValue {
  const signs = SIGNING.test(text)
  const companions = mayHaveCompanions(text)
  return (value, form) => {
    if (form === 'number') return isPortNumber(Number(value))
    return countWays(value) > 0 || (signs && WORD.test(value)) || (companions && mayBeCompanion(value))
  }
}

/** Functions of tokens, as languages call them. */
const SIGNING = new RegExp(`\\b(?:${[...TOKENS].join('|')})\\b|jwt`, 'i')

/** True for a number that a service or a program could listen on. */
export function isPortNumber(number: number): boolean {
  return Number.isInteger(number) && number >= 80 && number <= 65_535
}
