import { listWords } from '@mappa/core/credentials/words'
import type { TakenAs } from './source.ts'

/** A variable, as everybody writes them. */
const VARIABLE = /^(?=.{3})[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)*$/
const ENVIRONMENT = new Set(['env', 'environ', 'environment', 'getenv', 'envvar', 'envs', 'lookupenv'])
/** What does something else with a variable than read it. */
const OTHERS = new Set(
  'set setenv unset unsetenv put putenv stub mock delete del remove clear has contains own restore write define replace export'.split(
    ' ',
  ),
)
const OPTIONAL = new Set(['optional', 'maybe', 'try', 'lookup', 'lookupenv', 'find', 'or', 'with', 'default'])
const MADE: Readonly<Record<string, TakenAs>> = {
  int: 'integer',
  integer: 'integer',
  number: 'number',
  num: 'number',
  float: 'number',
  double: 'number',
  bool: 'boolean',
  boolean: 'boolean',
  flag: 'boolean',
}

/**
 * What a call says of a variable, by the name of the function: `mustGetenv("DOME_KEY")`, `envInt("DOME_PORT", 4100)`.
 *
 * @param callee the function, with what it is a method of: `env.get`
 * @param name what it is given first
 * @param hasMore true where it is given something else too, which then stands in for a value
 * @returns `null` for a call that reads no variable
 */
export function readFromCall(
  callee: string,
  name: string,
  hasMore: boolean,
): { readonly needed: boolean; readonly takenAs: TakenAs | null } | null {
  if (!/env/i.test(callee) || !VARIABLE.test(name)) return null
  const words = callee.split('.').flatMap(listWords)
  if (!words.some((word) => ENVIRONMENT.has(word)) || words.some((word) => OTHERS.has(word))) return null
  const takenAs = words.flatMap((word) => (Object.hasOwn(MADE, word) ? MADE[word]! : []))[0] ?? null
  return { needed: !hasMore && !words.some((word) => OPTIONAL.has(word)), takenAs }
}
