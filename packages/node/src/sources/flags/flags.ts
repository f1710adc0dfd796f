import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { hasPlace } from '@mappa/core/definition/former-value'
import type { Layer } from '@mappa/core/layers/layer'
import { describeLayer } from '@mappa/core/layers/order'
import { textLayer } from '@mappa/core/layers/sources'
import { problem } from '@mappa/core/problems/problem'
import { Reporter } from '@mappa/core/problems/reporter'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/** What a command line asks for beside values. */
export interface ParsedFlags {
  readonly layer: Layer
  readonly help: boolean
  readonly version: boolean
}

/**
 * The flag of a setting: `night.starMapUrl` gives `star-map-url` of `night`.
 *
 * @example
 * ```ts
 * toFlag(['night', 'starMapUrl']) // 'night-star-map-url'
 * ```
 */
export function toFlag(keys: readonly string[]): string {
  return keys
    .map((key) => key.replace(/([a-z0-9])([A-Z])/g, '$1-$2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1-$2'))
    .join('-')
    .replaceAll('_', '-')
    .toLowerCase()
}

/**
 * Reads the settings that a command line gives, as a layer. Everything behind `--` is the program's own.
 *
 * @param words the command line without the program, as `process.argv.slice(2)` has it
 * @param allowPositionals true where words that are no flags are the program's own, too
 */
export function parseFlags(definition: Definition, words: readonly string[], allowPositionals = false): ParsedFlags {
  const reading = new FlagReading(definition)
  const end = words.indexOf('--')
  const own = end < 0 ? words : words.slice(0, end)
  for (let at = 0; at < own.length; at++) {
    if (isFlag(own[at]!)) at += reading.take(own[at]!, own[at + 1])
    else if (own[at] === '-h') reading.help = true
    else if (!allowPositionals) reading.refuseWord(own[at]!, at + 1)
  }
  return reading.result()
}

const TITLE = describeLayer('flags')
const isFlag = (word: string) => word.startsWith('--') && word !== '--'
/** A word that begins like a flag is no value, so that no flag is swallowed; a negative number is one. */
const isValue = (word: string | undefined): word is string =>
  word !== undefined && (!word.startsWith('-') || word === '-' || /^-\.?\d/.test(word))

/** The settings of a flag: more than one where their flags are spelled alike. */
interface FlagMeaning {
  readonly declaration: Declaration
  /** True where the flag says no: `--no-dome-motors`. */
  readonly negated: boolean
}

/** What is known of a command line, word by word. */
class FlagReading {
  help = false
  #version = false
  readonly #values = new Map<string, string>()
  readonly #words: string[] = []
  readonly #reporter = new Reporter()
  readonly #byFlag = new Map<string, readonly FlagMeaning[]>()

  constructor({ settings }: Definition) {
    const add = (flag: string, meaning: FlagMeaning) =>
      this.#byFlag.set(flag, [...(this.#byFlag.get(flag) ?? []), meaning])
    for (const declaration of settings.filter(hasPlace)) {
      const flag = toFlag(declaration.keys)
      add(flag, { declaration, negated: false })
      if (declaration.kind.isSwitch === true) add(`no-${flag}`, { declaration, negated: true })
    }
  }

  result(): ParsedFlags {
    if (this.#words.length > 0)
      this.#reporter.report(problem('argument-unknown', { words: this.#words }, { layer: TITLE }))
    const { problems } = this.#reporter
    const getText = (name: string) => this.#values.get(name)
    return { layer: textLayer({ kind: 'flags', getText, problems }), help: this.help, version: this.#version }
  }

  /**
   * Takes a flag.
   *
   * @param next the word behind it
   * @returns how many words behind it belong to it
   */
  take(word: string, next: string | undefined): 0 | 1 {
    const [, flag = word, given] = /^([^=]*)(?:=(.*))?$/s.exec(word) ?? []
    const meanings = this.#byFlag.get(flag.slice(2))
    if (meanings === undefined) return this.#takeOther(flag, given, next)
    const isRefused = this.#refuse(flag, meanings)
    // What is behind it may be the secret, and is not shown.
    if (isRefused) return given === undefined && isValue(next) ? 1 : 0
    const { declaration, negated } = meanings[0]!
    if (negated) return this.#takeNegated(flag, given, declaration)
    if (given !== undefined) return this.#set(declaration, flag, given, 0)
    if (declaration.kind.isSwitch !== true)
      return isValue(next) ? this.#set(declaration, flag, next, 1) : this.#missing(declaration, flag)
    const isSaid = next !== undefined && 'value' in declaration.kind.convert(next, declaration.options)
    return isSaid ? this.#set(declaration, flag, next, 1) : this.#set(declaration, flag, 'true', 0)
  }

  /** Refuses the flag of a secret, and one that can mean several settings. */
  #refuse(flag: string, meanings: readonly FlagMeaning[]): boolean {
    const secret = meanings.find(({ declaration }) => declaration.secret)?.declaration
    if (secret !== undefined) this.#report('flag-secret', { flag, name: secret.name }, secret)
    else if (meanings.length > 1) {
      const names = meanings.map(({ declaration }) => declaration.name)
      this.#reporter.report(problem('flag-shared', { flag, names }, { layer: TITLE }))
    }
    return secret !== undefined || meanings.length > 1
  }

  /** Refuses a word that is no flag. It may be a secret that stands in the wrong place, so no more is shown than the name of an option. */
  refuseWord(word: string, position: number): void {
    const name = /^--?[A-Za-z][A-Za-z0-9-]*(?==|$)/.exec(word)?.[0]
    this.#words.push(name === undefined || name.length > 24 ? `argument ${position}` : name)
  }

  #takeOther(flag: string, given: string | undefined, next: string | undefined): 0 | 1 {
    if (flag === '--help' || flag === '--version') {
      if (given !== undefined) this.#reporter.report(problem('flag-takes-no-value', { flag }, { layer: TITLE }))
      else if (flag === '--help') this.help = true
      else this.#version = true
      return 0
    }
    const near = makeClosestMatch([...this.#byFlag.keys(), 'help', 'version'])(flag.slice(2))
    this.#reporter.report(problem('flag-unknown', { flag, near: near === null ? null : `--${near}` }, { layer: TITLE }))
    // It is probably the value of the flag that was meant.
    return given === undefined && isValue(next) ? 1 : 0
  }

  #takeNegated(flag: string, given: string | undefined, declaration: Declaration): 0 | 1 {
    if (given === undefined) return this.#set(declaration, flag, 'false', 0)
    this.#report('flag-takes-no-value', { flag }, declaration)
    return 0
  }

  /** Sets a value; an empty one counts only for a setting that may be empty. */
  #set(declaration: Declaration, flag: string, text: string, taken: 0 | 1): 0 | 1 {
    if (text === '' && !declaration.allowEmpty) this.#missing(declaration, flag)
    else this.#values.set(declaration.name, text)
    return taken
  }

  #missing(declaration: Declaration, flag: string): 0 {
    this.#report('flag-value-missing', { flag }, declaration)
    return 0
  }

  #report(
    code: 'flag-secret' | 'flag-value-missing' | 'flag-takes-no-value',
    details: { readonly flag: string; readonly name?: string },
    { name, path }: Declaration,
  ): void {
    this.#reporter.report(problem(code, { name, ...details }, { layer: TITLE, name, setting: path }))
  }
}
