import {
  BACKSLASH,
  BACKTICK,
  CLOSE_BRACE,
  DOLLAR,
  NEWLINE,
  OPEN_BRACE,
  OPEN_PARENTHESIS,
  RETURN,
} from '../envfile/reading/characters.ts'

/** A value with references: fixed pieces and references, in order. */
export type Template = readonly (string | Reference)[]

/** What a reference does where its name is set, is empty, or is not set; as in POSIX `sh`. */
export type Operator = '' | ':-' | '-' | ':?' | '?' | ':+' | '+'

/** `$NAME`, `${NAME}` or `${NAME:-word}` within a value. */
export interface Reference {
  readonly name: string
  /** Where the name stands in the text of the file, from 0. */
  readonly at: number
  readonly operator: Operator
  /** What stands behind the operator. */
  readonly word: Template
}

/** What was found while a value was taken apart. `at` is the offset in the text, from 0. */
export type TemplateFault =
  | { readonly code: 'command-not-run'; readonly at: number; readonly form: string }
  | { readonly code: 'reference-open' | 'reference-wrong' | 'reference-nested' | 'dollar-kept'; readonly at: number }

/** References deeper within references than this are refused, so that no text can exhaust the stack. */
const MAX_DEPTH = 32

const REFERENCE_NAME = /[A-Za-z_][A-Za-z0-9_]*/y
const OPERATOR = /:?[-?+]/y

/**
 * Takes a value apart into text and references, undoing escapes on the way. Reads each character once.
 *
 * @param text the whole text of the file
 * @param from where the value begins, behind its opening quote
 * @param to where it ends, before its closing quote
 * @param quoted true within double quotes; without quotes only `\$` is an escape, since a backslash stays as it is
 * @param crlf true where lines of the file end in CRLF; a line break within the value is then one line feed
 * @param fault is called for everything that is wrong or was read leniently
 * @returns the text alone where there is no reference, else the pieces
 */
export function parseTemplate(
  text: string,
  from: number,
  to: number,
  quoted: boolean,
  crlf: boolean,
  fault: (fault: TemplateFault) => void,
): string | Template {
  const pieces = new TemplateParser(text, from, to, quoted, crlf, fault).pieces(0)
  if (pieces.length === 0) return ''
  return pieces.length === 1 && typeof pieces[0] === 'string' ? pieces[0] : pieces
}

/** Text and references in a row. */
class Pieces {
  private readonly found: (string | Reference)[] = []
  private text = ''

  addText(text: string): void {
    this.text += text
  }

  addReference(reference: Reference): void {
    if (this.text !== '') this.found.push(this.text)
    this.text = ''
    this.found.push(reference)
  }

  all(): Template {
    return this.text === '' ? this.found : [...this.found, this.text]
  }
}

class TemplateParser {
  private readonly text: string
  private at: number
  private readonly to: number
  private readonly quoted: boolean
  private readonly crlf: boolean
  private readonly fault: (fault: TemplateFault) => void

  constructor(
    text: string,
    from: number,
    to: number,
    quoted: boolean,
    crlf: boolean,
    fault: (fault: TemplateFault) => void,
  ) {
    this.text = text
    this.at = from
    this.to = to
    this.quoted = quoted
    this.crlf = crlf
    this.fault = fault
  }

  /** Reads pieces up to the end, or within a reference up to its closing brace. */
  pieces(depth: number): Template {
    const { text, to } = this
    const found = new Pieces()
    /** Where the text begins that was read and is not yet among the pieces. */
    let pending = this.at
    while (this.at < to) {
      const code = text.charCodeAt(this.at)
      if (code === CLOSE_BRACE && depth > 0) break
      if (!this.isSpecial(code)) {
        this.at++
        continue
      }
      found.addText(text.slice(pending, this.at))
      this.readSpecial(code, depth, found)
      pending = this.at
    }
    found.addText(text.slice(pending, this.at))
    return found.all()
  }

  private isSpecial(code: number): boolean {
    return code === BACKSLASH || code === DOLLAR || code === BACKTICK || (code === RETURN && this.crlf)
  }

  /** Reads what begins with a special character. */
  private readSpecial(code: number, depth: number, found: Pieces): void {
    const { at } = this
    const next = at + 1 < this.to ? this.text.charCodeAt(at + 1) : 0
    if (code === BACKSLASH) found.addText(this.unescape(next, depth))
    else if (code === RETURN) {
      if (next !== NEWLINE) found.addText('\r')
      this.at++
    } else if (code === BACKTICK || next === OPEN_PARENTHESIS) {
      this.fault({ code: 'command-not-run', at, form: code === BACKTICK ? '`...`' : '$(...)' })
      this.at += code === BACKTICK ? 1 : 2
    } else {
      const reference = this.reference(next === OPEN_BRACE, depth)
      if (reference === null) found.addText('$')
      else found.addReference(reference)
    }
  }

  /** Reads a backslash and what belongs to it. */
  private unescape(next: number, depth: number): string {
    // Within a reference, } can be escaped as well.
    const own = next === CLOSE_BRACE && depth > 0 ? '}' : undefined
    const bare = next === DOLLAR ? '$' : undefined
    const meaning = own ?? (this.quoted ? QUOTED_ESCAPES[next] : bare)
    this.at += meaning === undefined ? 1 : 2
    return meaning ?? '\\'
  }

  /** Reads a reference; `null` where the `$` is none, or a wrong one. */
  private reference(braced: boolean, depth: number): Reference | null {
    const { text, to } = this
    const dollar = this.at
    REFERENCE_NAME.lastIndex = dollar + (braced ? 2 : 1)
    const name = REFERENCE_NAME.exec(text)?.[0]
    if (name === undefined || REFERENCE_NAME.lastIndex > to) {
      if (braced) return this.refuse('reference-wrong', dollar)
      this.at++
      this.fault({ code: 'dollar-kept', at: dollar })
      return null
    }
    const at = REFERENCE_NAME.lastIndex - name.length
    this.at = REFERENCE_NAME.lastIndex
    if (!braced) return { name, at, operator: '', word: [] }
    if (depth >= MAX_DEPTH) return this.refuse('reference-nested', dollar)
    let operator: Operator = ''
    let word: Template = []
    if (this.at < to && text.charCodeAt(this.at) !== CLOSE_BRACE) {
      OPERATOR.lastIndex = this.at
      operator = (OPERATOR.exec(text)?.[0] ?? '') as Operator
      if (operator === '') return this.refuse('reference-wrong', dollar)
      this.at = OPERATOR.lastIndex
      word = this.pieces(depth + 1)
    }
    if (this.at >= to) return this.refuse('reference-open', dollar)
    this.at++
    return { name, at, operator, word }
  }

  /** Gives up on the value: what follows can't be told apart any more. */
  private refuse(code: 'reference-open' | 'reference-wrong' | 'reference-nested', at: number): null {
    this.at = this.to
    this.fault({ code, at })
    return null
  }
}

/** What follows a backslash within double quotes, and what both stand for. Any other backslash stays. */
const QUOTED_ESCAPES: readonly (string | undefined)[] = Object.assign(new Array<string | undefined>(128), {
  110: '\n',
  114: '\r',
  116: '\t',
  92: '\\',
  34: '"',
  36: '$',
  96: '`',
})
