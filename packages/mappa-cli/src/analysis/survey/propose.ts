import { classifyMeaning, isTellingName, listWords } from '@mappa/core/credentials/words'
import { isPathKey, variableName } from '@mappa/core/definition/naming'
import type { SourceLiteral } from '@mappa/source/source'
import { classifyEach } from './meaning.ts'

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
  'authorization',
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
  /** The path of a setting that the definition has under this name already, and which is probably meant. */
  readonly like: string | null
}

/** The paths that are in use, so that a new one goes together with them. */
export class PathRegister {
  readonly #paths = new Set<string>()
  readonly #groups = new Set<string>()
  readonly #names = new Map<string, string>()
  readonly #declared = new Map<string, string>()
  /** The lowest number that may be free, by what is numbered: what is taken stays taken. */
  readonly #numbers = new Map<string, number>()

  /**
   * @param settings those that the definition has
   */
  constructor(settings: readonly { readonly path: string; readonly name: string }[] = []) {
    for (const { path, name } of settings) {
      this.add(path, name)
      this.#declared.set(name, path)
    }
  }

  /** The path of the setting that has a variable name in the definition. */
  findDeclared(name: string): string | null {
    return this.#declared.get(name) ?? null
  }

  add(path: string, name: string): void {
    this.#paths.add(path)
    this.#names.set(name, path)
    const keys = path.split('.')
    for (let depth = 1; depth < keys.length; depth++) this.#groups.add(keys.slice(0, depth).join('.'))
  }

  /** The path that has a variable name. */
  getPath(name: string): string | null {
    return this.#names.get(name) ?? null
  }

  /** Of proposals with the numbers from 2 on, the first that is free. */
  firstFree(what: string, numbered: (number: number) => Proposal): Proposal {
    for (let number = this.#numbers.get(what) ?? 2; ; number++) {
      const proposal = numbered(number)
      if (!this.isFree(proposal.path, proposal.name)) continue
      this.#numbers.set(what, number)
      return proposal
    }
  }

  /** True for a path that no other stands in the way of: as itself, as a group, by its name. */
  isFree(path: string, name: string): boolean {
    const keys = path.split('.')
    const leads = keys.some((_, depth) => depth > 0 && this.#paths.has(keys.slice(0, depth).join('.')))
    return !leads && !this.#paths.has(path) && !this.#groups.has(path) && !this.#names.has(name)
  }
}

/**
 * Proposes where a value could stand in the definition: under the variable that it stands in for, else from the names it
 * is given to, and where they say too little from the name of its file.
 *
 * @param fallback the last word, where no name says any: `key`, `url`, `port`
 * @param used paths that are in use
 */
export function propose(literal: SourceLiteral, fallback: string, used: PathRegister): Proposal {
  const { variable } = literal
  const keys = variable === null ? keysFromNames(literal, fallback) : keysOfVariable(variable)
  const getName = (path: string) => variable ?? variableName(path.split('.'), '')
  const first = keys.join('.')
  const like = used.findDeclared(getName(first))
  // Code that reads the variable of a setting means that setting.
  if (like !== null && variable !== null) return { path: like, name: variable, like }
  // A word of the file tells two alike ones apart better than a number.
  const words = fileWords(literal).filter((each) => each !== keys[0])
  const apart = variable === null ? [...words, ...keys.slice(keys[0] === 'server' ? 1 : 0)] : []
  // Of two addresses that are given to one name, each is of its own machine.
  const host = variable === null ? hostWord(literal.value) : null
  const byHost =
    host === null || keys.join().toLowerCase().includes(host.toLowerCase()) ? [] : [first + capitalize(host)]
  const others = apart.length > keys.length ? [[camel(apart.slice(0, 1)), camel(apart.slice(1))].join('.')] : []
  for (const path of [first, ...byHost, ...others])
    if (used.isFree(path, getName(path))) return { path, name: getName(path), like }
  const numbered = (number: number) => {
    const path = `${first}${number}`
    return { path, name: variable === null ? getName(path) : `${variable}${number}`, like }
  }
  return used.firstFree(`${first} ${variable}`, numbered)
}

/** What tools want names to begin with, and what says nothing of a setting. */
export const PREFIX_OF_TOOL = /^(?:TF_VAR|VITE)_(?=.)/

/** The keys of a path for a variable that is in use: `DOME_API_KEY` gives dome and apiKey. */
export function keysOfVariable(name: string): [group: string, key: string] {
  const words = listWords(name.replace(PREFIX_OF_TOOL, ''))
  const [group = 'app', ...rest] = words.length > 1 ? words : ['app', ...words]
  return [camel([group]), camel(rest)]
}

function keysFromNames(literal: SourceLiteral, fallback: string): [group: string, key: string] {
  const words = reorderNames(literal.names)
    .filter(isTellingName)
    .flatMap((name) => listWords(name).filter((word) => !EMPTY_WORDS.has(word)))
  const own = words.filter((word, at) => word !== words[at - 1])
  if (own.length === 0) own.push(fallback)
  if (own.length === 1) {
    // A word that says what it is stands below what it is of; one that says what it is of, above.
    const [word] = own as [string]
    if (word === fallback || classifyMeaning([word]) !== null || fallback === 'value')
      own.unshift(proposeGroup(literal, word))
    else own.push(fallback)
  }
  const [group, ...rest] = own.slice(-5)
  return [camel([group!]), camel(rest)]
}

/** `ports: { dome: 4100 }` is the port of the dome, as `dome: { port: 4100 }` is. */
function reorderNames(names: readonly string[]): readonly string[] {
  const [around, own] = names.slice(-2)
  if (own === undefined || around === undefined || classifyMeaning([own]) !== null || classifyEach(around) === null)
    return names
  return [...names.slice(0, -2), own, around.slice(0, -1)]
}

function proposeGroup(literal: SourceLiteral, word: string): string {
  if (word === 'port' || literal.callee === 'listen') return 'server'
  const host = word === 'url' ? hostWord(literal.value) : null
  if (host !== null) return host
  const fromFile = fileWords(literal).filter((each) => each !== word)
  return fromFile.length > 0 ? camel(fromFile) : 'service'
}

/** What an address is of, by the name of its machine: `hooks` of `https://hooks.fernhollow.example/`. */
function hostWord(address: string): string | null {
  const [, host = ''] = /^\w+:\/\/(?:[^/?#@]*@)?([a-z][a-z-]*)\./i.exec(address) ?? []
  const words = listWords(host)
  return words.length === 0 || /^(www|api|app|localhost)$/i.test(host) || !isTellingName(host) ? null : camel(words)
}

/** At most two telling words of the name of a file. */
function fileWords({ file }: SourceLiteral): readonly string[] {
  const stem = file.split('/').at(-1)!.split('.')[0]!
  return listWords(stem)
    .filter((each) => !EMPTY_WORDS.has(each) && /^[a-z]/.test(each))
    .slice(0, 2)
}

/** A key of a path from words. */
function camel(words: readonly string[]): string {
  const joined = words.map((word, at) => (at === 0 ? word : capitalize(word))).join('')
  return isPathKey(joined) ? joined : `value${capitalize(joined)}`
}

function capitalize(word: string): string {
  return `${word[0]?.toUpperCase() ?? ''}${word.slice(1)}`
}
