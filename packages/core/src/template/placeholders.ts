import { type FilterName, isFilter } from './filters.ts'
import type { Operator } from './template.ts'

/** A text with placeholders: fixed pieces and placeholders, in order. */
export type TextTemplate = readonly (string | Placeholder)[]

/** `${NAME}` in a text file, with an operator and filters: `${NAME:-word|yaml}`. */
export interface Placeholder {
  readonly name: string
  /** Where it begins, at its `$`, from 0 in the whole text; and behind its `}`. */
  readonly start: number
  readonly end: number
  /** What is done to the value, in this order. */
  readonly filters: readonly FilterName[]
  readonly operator: Operator
  /** What stands behind the operator. */
  readonly word: TextTemplate
}

/** A `${` that is no placeholder. */
export interface PlaceholderFault {
  readonly code: 'placeholder-open' | 'placeholder-wrong' | 'placeholder-nested' | 'filter-unknown'
  readonly start: number
  readonly end: number
  /** The name, as far as there is one. */
  readonly name: string | null
  /** The filter that does not exist. */
  readonly filter: string | null
}

/** A text file, taken apart. */
export interface ParsedText {
  readonly pieces: TextTemplate
  readonly faults: readonly PlaceholderFault[]
}

/** Placeholders deeper within placeholders than this are refused, so that no text can exhaust the stack. */
const MAX_DEPTH = 32
/** Of what is no placeholder, so many characters are shown. */
const LONGEST_SHOWN = 40

const NAME = /[A-Za-z_][A-Za-z0-9_]*/y
const FILTER = /[ \t]*\|[ \t]*([A-Za-z0-9_-]*)/y
const OPERATOR = /(:?[-?+])?/y
const BLANKS = /[ \t]*/y

/**
 * Takes a text file apart. Only `${` begins a placeholder; `$NAME`, `$(...)` and backslashes are text, since other programs use them.
 * `$${` is a literal `${`. What is no placeholder stays as it is, beside its fault.
 *
 * @param text the whole text
 * @param isOurs tells a name whose placeholders are filled in; those of other names stay as they are, and so does all else that is no
 *   placeholder; all names if left out
 * @example
 * ```ts
 * parsePlaceholders('port: ${SERVER_PORT:-4100}\n').pieces // ['port: ', { name: 'SERVER_PORT', operator: ':-', ... }, '\n']
 * ```
 */
export function parsePlaceholders(text: string, isOurs: (name: string) => boolean = () => true): ParsedText {
  const parser = new TextParser(text, isOurs)
  return { pieces: parser.pieces(), faults: parser.faults }
}

class TextParser {
  readonly faults: PlaceholderFault[] = []
  readonly #text: string
  readonly #isOurs: (name: string) => boolean

  constructor(text: string, isOurs: (name: string) => boolean) {
    this.#text = text
    this.#isOurs = isOurs
  }

  pieces(): TextTemplate {
    const text = this.#text
    const found: (string | Placeholder)[] = []
    let from = 0
    for (let at = text.indexOf('${'); at >= 0; at = text.indexOf('${', at)) {
      if (text[at - 1] === '$' && at - 1 >= from) {
        // The first $ goes, unless the name is another program's.
        if (this.#isOurs(findName(text, at + 2) ?? '')) {
          found.push(text.slice(from, at - 1))
          from = at
        }
        at += 2
        continue
      }
      const read = this.#placeholder(at, 0)
      if (read === null) {
        at += 2
        continue
      }
      if (at > from) found.push(text.slice(from, at))
      found.push(read)
      from = read.end
      at = read.end
    }
    if (from < text.length) found.push(text.slice(from))
    return found
  }

  /** Reads a placeholder; `null` for what is none, or not ours. */
  #placeholder(start: number, depth: number): Placeholder | null {
    const text = this.#text
    const name = findName(text, start + 2)
    if (!this.#isOurs(name ?? '')) return null
    if (name === null)
      return this.#fault(
        readRestOfLine(text, start).includes('}') ? 'placeholder-wrong' : 'placeholder-open',
        start,
        null,
      )
    if (depth >= MAX_DEPTH) return this.#fault('placeholder-nested', start, name)
    let at = start + 2 + name.length
    const [found, operator = ''] = match(OPERATOR, text, at)!
    at += found.length
    const word = operator === '' ? { pieces: [], end: at } : this.#word(at, depth + 1)
    if (word === null) return null
    at = word.end
    const filters: FilterName[] = []
    for (let filter = match(FILTER, text, at); filter !== null; filter = match(FILTER, text, at)) {
      at += filter[0].length
      if (!isFilter(filter[1]!)) return this.#fault('filter-unknown', start, name, filter[1])
      filters.push(filter[1]!)
    }
    at += match(BLANKS, text, at)![0].length
    if (text[at] === '}')
      return { name, start, end: at + 1, filters, operator: operator as Operator, word: word.pieces }
    return this.#fault(!readRestOfLine(text, at).includes('}') ? 'placeholder-open' : 'placeholder-wrong', start, name)
  }

  /**
   * Reads what stands behind an operator, up to a filter or the closing brace, which a backslash makes text; `null` where a placeholder in
   * it is wrong.
   */
  #word(start: number, depth: number): { readonly pieces: TextTemplate; readonly end: number } | null {
    const text = this.#text
    const pieces: (string | Placeholder)[] = []
    let from = start
    let at = start
    const take = (end: number) => {
      if (end > from) pieces.push(text.slice(from, end))
    }
    while (at < text.length && text[at] !== '}' && text[at] !== '|') {
      if (text[at] === '\\' && /[|}]/.test(text[at + 1] ?? '')) {
        take(at)
        from = at + 1
        at += 2
        continue
      }
      if (!text.startsWith('${', at)) {
        at++
        continue
      }
      const before = this.faults.length
      const inner = this.#placeholder(at, depth)
      if (inner === null) {
        if (this.faults.length > before) return null
        // Another program's, within ours.
        at = Math.max(at + 2, text.indexOf('}', at) + 1)
        continue
      }
      take(at)
      pieces.push(inner)
      from = inner.end
      at = inner.end
    }
    take(at)
    return { pieces, end: at }
  }

  #fault(code: PlaceholderFault['code'], start: number, name: string | null, filter: string | null = null): null {
    const line = readRestOfLine(this.#text, start)
    const close = line.indexOf('}')
    const length = close < 0 ? line.trimEnd().length : close + 1
    this.faults.push({ code, start, end: start + Math.min(length, LONGEST_SHOWN), name, filter })
    return null
  }
}

function readRestOfLine(text: string, at: number): string {
  const end = text.indexOf('\n', at)
  return text.slice(at, end < 0 ? undefined : end)
}

function findName(text: string, at: number): string | null {
  return match(NAME, text, at)?.[0] ?? null
}

function match(pattern: RegExp, text: string, at: number): RegExpExecArray | null {
  pattern.lastIndex = at
  return pattern.exec(text)
}
