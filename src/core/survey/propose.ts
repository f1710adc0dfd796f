import { variableName } from '../definition/naming.ts'
import type { SourceLiteral } from './source.ts'
import { wordsOf } from './words.ts'

/** Words that say no more than that a value is a setting. */
const EMPTY_WORDS = new Set([
  'config',
  'x',
  'configuration',
  'settings',
  'options',
  'opts',
  'env',
  'process',
  'constants',
  'const',
  'default',
  'defaults',
  'params',
  'props',
  'args',
  'headers',
  'init',
  'data',
  'this',
  'module',
  'exports',
  'main',
  'index',
  'app',
  'src',
  'lib',
])

/** The path and the variable name that a value could have as a setting. */
export interface Proposal {
  readonly path: string
  readonly name: string
}

/**
 * Proposes where a value could stand in the definition: from the names it is given to, and where they say too little
 * from the name of its file.
 *
 * @param fallback the last word, where no name says any: `key`, `url`, `port`
 * @param taken paths that are in use
 */
export function propose(literal: SourceLiteral, fallback: string, taken: ReadonlySet<string>): Proposal {
  const words = literal.names.flatMap((name) => wordsOf(name).filter((word) => !EMPTY_WORDS.has(word)))
  const own = words.filter((word, at) => word !== words[at - 1])
  if (own.length === 0) own.push(fallback)
  if (own.length === 1) own.unshift(groupFrom(literal, own[0]!))
  const [group, ...rest] = own.slice(-5)
  const key = camel(rest)
  let path = `${group}.${key}`
  for (let number = 2; taken.has(path); number++) path = `${group}.${key}${number}`
  return { path, name: variableName(path.split('.'), '') }
}

function groupFrom({ file, callee }: SourceLiteral, word: string): string {
  if (word === 'port' || callee === 'listen') return 'server'
  const stem = file.split('/').at(-1)!.split('.')[0]!
  const fromFile = wordsOf(stem).filter((each) => !EMPTY_WORDS.has(each) && /^[a-z]/.test(each) && each !== word)
  return fromFile.length > 0 ? camel(fromFile.slice(0, 2)) : 'service'
}

function camel(words: readonly string[]): string {
  const joined = words.map((word, at) => (at === 0 ? word : word[0]!.toUpperCase() + word.slice(1))).join('')
  return /^[a-z]/.test(joined) ? joined : `value${joined}`
}
