import { opensExpansion } from './here-text.ts'

/** Where a place in a script of a shell is. A word that quotes itself can stand in `code` only, and in one line of a comment. */
export type ShellContext =
  | 'code'
  | 'comment'
  | 'quotes'
  | 'a here document'
  | 'a comparison of numbers'
  | 'an expression'
  | 'backquotes'
  | 'an escape'

/** What is open: its context in the code, and what ends it. */
interface Frame {
  readonly context: ShellContext
  readonly opening: string
  readonly end: string
}

/** A here document whose body is still to come. */
interface HereDocument {
  readonly delimiter: string
  /** True where tabs at the beginning of its lines do not count. */
  readonly tabs: boolean
  /** True where nothing in it means anything, a backslash before the end of a line included. */
  readonly isLiteral: boolean
}

const CODE: Frame = { context: 'code', opening: '', end: '' }
const ENDS_WORD = ' \t\n;&|<>()'
/** A subscript that is one word for every shell. */
const SUBSCRIPT = /^\[(?:\$\(\([^()\n]*\)\)|\$\([^()'"\n]*\)|\$\{[^{}'"\s]*\}|'[^'\n]*'|"[^"\n]*"|[^\s;&|<>()'"#\]])*\]/

/**
 * Finds out where places in a script are: in code, in quotes, in a comment, in a here document. Follows POSIX and bash; where they read
 * a script differently, everything behind that place counts as quoted.
 *
 * @param text the script
 * @param places offsets in it, ascending
 * @example
 * ```ts
 * findShellContexts('echo "x 1"', [8]) // ['quotes']
 * ```
 */
export function findShellContexts(text: string, places: readonly number[]): readonly ShellContext[] {
  return new Scanner(text, places).contexts()
}

class Scanner {
  readonly #text: string
  readonly #places: readonly number[]
  readonly #found: ShellContext[] = []
  readonly #frames: Frame[] = [CODE]
  /** Here documents whose bodies begin on the next line. */
  #pending: HereDocument[] = []
  #at = 0
  /** True where the next character would begin a word. */
  #isWordStart = true
  /** True behind a here document in which something is opened and not closed: some shells read on behind its end, others do not. */
  #isUnsure = false
  /** Up to where code is a subscript, or compares numbers: bash computes both, and runs commands in them, also in quoted texts. */
  #computed: { readonly context: ShellContext; readonly end: number } = { context: 'code', end: 0 }

  constructor(text: string, places: readonly number[]) {
    this.#text = text
    this.#places = places
  }

  contexts(): readonly ShellContext[] {
    while (this.#at < this.#text.length) {
      const from = this.#at
      const { context } = this.#frame
      if (context === 'code') this.#code()
      else this.#inside()
      this.#note(from, context)
    }
    this.#note(this.#text.length, this.#frame.context, true)
    return this.#found
  }

  get #frame(): Frame {
    return this.#frames.at(-1)!
  }

  /** Notes the context of all places up to here. */
  #note(from: number, context: ShellContext, isEnd = false): void {
    while (this.#found.length < this.#places.length) {
      const place = this.#places[this.#found.length]!
      if (place >= this.#at && !isEnd) return
      this.#found.push(context === 'code' ? this.#contextInCode(place, from) : context)
    }
  }

  #contextInCode(place: number, from: number): ShellContext {
    // What is read together with the character before it is no word.
    if (place > from) return 'an escape'
    return place < this.#computed.end ? this.#computed.context : 'code'
  }

  #open(context: ShellContext, opening: string, end: string): void {
    this.#at += opening.length
    this.#frames.push({ context, opening, end })
    this.#isWordStart = context === 'code'
  }

  /** Nobody can be sure where what is open here ends, so all that follows counts as quoted. */
  #giveUp(): void {
    const from = this.#at
    this.#frames.push({ context: 'quotes', opening: '', end: "'" })
    this.#at = this.#text.length
    this.#note(from, 'quotes', true)
  }

  #opens(opening: string): boolean {
    return this.#text.startsWith(opening, this.#at)
  }

  #step(count = 1): void {
    this.#isWordStart = ENDS_WORD.includes(this.#text[this.#at] ?? '')
    this.#at += count
  }

  /** One step within code. */
  #code(): void {
    const { end } = this.#frame
    if (this.#opens('\\\n')) {
      // The line goes on, and so does its word.
      this.#at += 2
      return
    }
    if (this.#opens('\\')) this.#step(2)
    else if (this.#opens('\n')) this.#lineEnd()
    else if (end !== '' && this.#opens(end)) this.#close()
    else if (this.#opens("$'")) this.#open('quotes', "$'", "'\\")
    else if (this.#opens("'")) this.#open('quotes', "'", "'")
    else if (this.#opens('"')) this.#open('quotes', '"', '"')
    else if (this.#opens('#') && this.#isWordStart) this.#comment()
    else if (this.#isCaseInQuotes()) this.#giveUp()
    else if (!this.#expansion() && !this.#construct()) this.#step()
  }

  /** The parentheses of a `case` are not balanced, so where quotes are open around it, only a parser would know where they go on. */
  #isCaseInQuotes(): boolean {
    if (!this.#isWordStart || !/^case\s/.test(this.#text.slice(this.#at, this.#at + 5))) return false
    return this.#frames.some(({ context }) => context !== 'code')
  }

  /** What begins with a dollar sign or a backquote, in code and in double quotes. */
  #expansion(): boolean {
    if (this.#opens('`')) this.#open('backquotes', '`', '`')
    else if (this.#opens('$((')) this.#open('an expression', '$((', '))')
    // An expression to bash, and code to others.
    else if (this.#opens('$[')) this.#giveUp()
    else if (this.#opens('${')) this.#open('an expression', '${', '}')
    else if (this.#opens('$(')) this.#open('code', '$(', ')')
    else return false
    return true
  }

  /** Parentheses, tests, subscripts and here documents of code. */
  #construct(): boolean {
    if (this.#opens('<<<')) this.#step(3)
    else if (this.#opens('<<')) this.#hereDocument()
    else if (this.#opens('((') && this.#isWordStart) this.#open('an expression', '((', '))')
    else if (this.#opens('(')) this.#open('code', '(', ')')
    else if (this.#opens('[[') && this.#isWordStart) this.#test()
    else if (this.#opens('[') && /\w/.test(this.#text[this.#at - 1] ?? '')) this.#subscript()
    else return false
    return true
  }

  #close(): void {
    const { opening, end } = this.#frames.pop()!
    this.#at += end.length
    this.#isWordStart = opening === '('
  }

  #test(): void {
    const line = this.#text.slice(this.#at).split('\n', 1)[0]!
    const end = line.includes(']]') ? this.#at + line.lastIndexOf(']]') : this.#text.indexOf(']]', this.#at)
    const content = this.#text.slice(this.#at, end < 0 ? undefined : end)
    if (/\s-(?:eq|ne|lt|le|gt|ge|v)\s/.test(content))
      this.#computed = { context: 'a comparison of numbers', end: this.#at + content.length }
    this.#step(2)
  }

  /** Bash reads a subscript up to its bracket, over blanks, `#` and `<<`, which end the word for other shells. */
  #subscript(): void {
    const rest = this.#text.slice(this.#at)
    const subscript = SUBSCRIPT.exec(rest)?.[0]
    if (subscript === undefined) {
      this.#giveUp()
      return
    }
    const after = /^\S*/.exec(rest.slice(subscript.length))![0].lastIndexOf(']') + 1
    this.#computed = { context: 'an expression', end: this.#at + subscript.length + after - 1 }
    this.#step()
  }

  #comment(): void {
    const end = this.#text.indexOf('\n', this.#at)
    const from = this.#at
    this.#at = end < 0 ? this.#text.length : end
    this.#note(from, 'comment', end < 0)
    this.#isWordStart = true
  }

  #hereDocument(): void {
    const tabs = this.#opens('<<-')
    this.#at += tabs ? 3 : 2
    const start = this.#at
    const [word] = /^[ \t]*(?:'[^'\n]*'|"(?:[^"\\\n]|\\.)*"|\\.|[^ \t\n;&|<>()'"\\])*/.exec(
      this.#text.slice(start, start + 4096),
    )!
    this.#at += word.length
    this.#note(start, 'a here document')
    const delimiter = word.replace(/^[ \t]+/, '').replace(/['"]|\\(?=.)/g, '')
    this.#pending.push({ delimiter, tabs, isLiteral: /['"\\]/.test(word) })
    this.#isWordStart = false
  }

  #lineEnd(): void {
    this.#step()
    for (const each of this.#pending) this.#hereText(each)
    this.#pending = []
    if (this.#isUnsure) this.#giveUp()
  }

  /** Passes over the body of a here document, up to the line that ends it. */
  #hereText({ delimiter, tabs, isLiteral }: HereDocument): void {
    const from = this.#at
    let isOpen = true
    let isJoined = false
    while (isOpen && this.#at < this.#text.length) {
      const end = this.#text.indexOf('\n', this.#at)
      const line = this.#text.slice(this.#at, end < 0 ? undefined : end)
      isOpen = isJoined || (tabs ? line.replace(/^\t+/, '') : line) !== delimiter
      isJoined = !isLiteral && (/\\+$/.exec(line)?.[0].length ?? 0) % 2 === 1
      this.#at = end < 0 ? this.#text.length : end + 1
    }
    if (!isLiteral) this.#isUnsure ||= opensExpansion(this.#text.slice(from, this.#at))
    this.#note(from, 'a here document', this.#at >= this.#text.length)
  }

  /** One step within quotes, backquotes or an expression. */
  #inside(): void {
    const { end, context, opening } = this.#frame
    if (end === "'") this.#singleQuotes()
    else if (end === "'\\") this.#dollarQuotes()
    else if (this.#opens('\\')) this.#at += 2
    else if (this.#opens(end)) this.#close()
    else if (context === 'backquotes') this.#at++
    else if (end === '"' || !this.#inExpression(opening)) {
      if (!this.#expansion()) this.#at++
    }
  }

  /** Quotes and parentheses in an expression; false for other characters. */
  #inExpression(opening: string): boolean {
    const computes = opening !== '${'
    if (this.#opens("'") && (computes || this.#isInDoubleQuotes())) this.#giveUp()
    // No arithmetic, but a subshell in parentheses.
    else if (this.#opens(')') && computes) this.#giveUp()
    else if (this.#opens("'")) this.#open('quotes', "'", "'")
    else if (this.#opens('"')) this.#open('quotes', '"', '"')
    else if (this.#opens('(') && computes) this.#open('an expression', '(', ')')
    else return false
    return true
  }

  /** Shells do not agree what single quotes mean in an expansion within double quotes. */
  #isInDoubleQuotes(): boolean {
    const inner = this.#frames.slice(this.#frames.findLastIndex(({ context }) => context === 'code') + 1)
    return inner.some(({ end }) => end === '"')
  }

  #singleQuotes(): void {
    const end = this.#text.indexOf("'", this.#at)
    if (end === this.#at) this.#close()
    else this.#at = end < 0 ? this.#text.length : end
  }

  /** POSIX shells know no escapes in `$'...'`, so with one in it nobody knows where it ends. */
  #dollarQuotes(): void {
    const end = this.#text.indexOf("'", this.#at)
    if (end === this.#at) {
      this.#at++
      this.#frames.pop()
      this.#isWordStart = false
    } else if (end < 0 || this.#text.slice(this.#at, end).includes('\\')) this.#at = this.#text.length
    else this.#at = end
  }
}
