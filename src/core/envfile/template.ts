import type { Quote } from './entry.ts'

/** A value with references: fixed pieces and references, in order. */
export type Template = readonly (string | Reference)[]

/** What a reference does where its name is set, is empty, or is not set; as in POSIX `sh`. */
export type Operator = '' | ':-' | '-' | ':?' | '?' | ':+' | '+'

/** `$NAME`, `${NAME}` or `${NAME:-word}` within a value. */
export interface Reference {
  readonly name: string
  readonly operator: Operator
  /** What stands behind the operator. */
  readonly word: Template
}

/** What was found while a value was taken apart. `at` is the offset in the text, from 0. */
export type TemplateFault =
  | { readonly code: 'command-not-run'; readonly at: number; readonly form: string }
  | { readonly code: 'reference-open' | 'reference-wrong' | 'reference-nested' | 'dollar-kept'; readonly at: number }

/** References deeper within references than this are refused, so that no text can exhaust the stack. */
const DEEPEST = 32

const REFERENCE_NAME = /[A-Za-z_][A-Za-z0-9_]*/y
const OPERATOR = /:?[-?+]/y

/**
 * Takes a value apart into text and references, undoing escapes on the way. Reads each character once.
 *
 * @param text the whole text of the file
 * @param from where the value begins, behind its opening quote
 * @param to where it ends, before its closing quote
 * @param quote how it is quoted: without quotes only `\$` is an escape, since a backslash stays as it is
 * @param crlf true where lines of the file end in CRLF; a line break within the value is then one line feed
 * @param fault is told of everything that is wrong or was read leniently
 * @returns the text alone where there is no reference, else the pieces
 */
export function parseTemplate(
  text: string,
  from: number,
  to: number,
  quote: Exclude<Quote, "'">,
  crlf: boolean,
  fault: (fault: TemplateFault) => void,
): string | Template {
  let at = from

  function pieces(depth: number): Template {
    const found: (string | Reference)[] = []
    let literal = ''
    while (at < to) {
      const character = text[at]!
      if (character === '}' && depth > 0) break
      if (character === '\\') {
        literal += unescaped()
      } else if (character === '`') {
        fault({ code: 'command-not-run', at, form: '`...`' })
        at++
      } else if (character === '$') {
        const next = text[at + 1]
        if (next === '(' && at + 1 < to) {
          fault({ code: 'command-not-run', at, form: '$(...)' })
          at += 2
        } else {
          const reference = referenceAt(depth)
          if (typeof reference === 'string') {
            literal += reference
          } else {
            if (literal !== '') found.push(literal)
            literal = ''
            found.push(reference)
          }
        }
      } else if (character === '\r' && crlf && text[at + 1] === '\n' && at + 1 < to) {
        at++
      } else {
        literal += character
        at++
      }
    }
    if (literal !== '') found.push(literal)
    return found
  }

  function unescaped(): string {
    const next = at + 1 < to ? text[at + 1]! : ''
    const meaning = (quote === '"' ? ESCAPES : BARE_ESCAPES).get(next)
    at += meaning === undefined ? 1 : 2
    return meaning ?? '\\'
  }

  function referenceAt(depth: number): Reference | string {
    const dollar = at
    const braced = text[at + 1] === '{' && at + 1 < to
    REFERENCE_NAME.lastIndex = at + (braced ? 2 : 1)
    const name = REFERENCE_NAME.exec(text)?.[0]
    if (name === undefined || REFERENCE_NAME.lastIndex > to) {
      at++
      if (!braced) {
        fault({ code: 'dollar-kept', at: dollar })
      } else {
        at = to
        fault({ code: 'reference-wrong', at: dollar })
      }
      return '$'
    }
    at = REFERENCE_NAME.lastIndex
    if (!braced) return { name, operator: '', word: [] }
    if (depth >= DEEPEST) {
      at = to
      fault({ code: 'reference-nested', at: dollar })
      return '$'
    }
    let operator: Operator = ''
    let word: Template = []
    if (at < to && text[at] !== '}') {
      OPERATOR.lastIndex = at
      operator = (OPERATOR.exec(text)?.[0] ?? '') as Operator
      if (operator === '') {
        at = to
        fault({ code: 'reference-wrong', at: dollar })
        return '$'
      }
      at = OPERATOR.lastIndex
      word = pieces(depth + 1)
    }
    if (at >= to) {
      fault({ code: 'reference-open', at: dollar })
      return '$'
    }
    at++
    return { name, operator, word }
  }

  const all = pieces(0)
  if (all.length === 0) return ''
  return all.length === 1 && typeof all[0] === 'string' ? all[0] : all
}

/** What follows a backslash within double quotes, and what both stand for. Any other backslash stays. */
const ESCAPES = new Map([
  ['n', '\n'],
  ['r', '\r'],
  ['t', '\t'],
  ['\\', '\\'],
  ['"', '"'],
  ['$', '$'],
  ['`', '`'],
])

const BARE_ESCAPES = new Map([['$', '$']])
