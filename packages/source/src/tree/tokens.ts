import { addNode, type GrowingNode, growTree, type TreeNode } from './node.ts'

/** One way to write a text in a language. */
export interface TextForm {
  /** What it begins with; sticky. */
  readonly opens: RegExp
  /** What it ends with, from what it began with. */
  readonly closes: (opening: string) => string
  /** True where a backslash keeps a quote from ending it. */
  readonly escapes: boolean
  /** What begins a part that is no fixed text, and ends with a curly bracket; a name alone may follow a `$`. */
  readonly interpolates?: '#{' | '${' | '{'
}

/** What the words of a language look like: enough to tell its texts from its code. */
export interface TokenRules {
  /** Comments; sticky. */
  readonly comments: readonly RegExp[]
  readonly texts: readonly TextForm[]
  /** Words that look like the beginning of a text, such as a variable that is called like a quote; sticky. */
  readonly words?: readonly RegExp[]
  /** Other pieces that hold brackets or quotes of their own, such as patterns; sticky. */
  readonly others?: readonly RegExp[]
  /** Texts that begin on a line below the one that names their end; sticky, with the end as the first or second group. */
  readonly heredoc?: RegExp
}

const WORD =
  /[\p{L}_$@][\p{L}\p{N}_]*(?:(?:::|\??\.|->|!!\.)[\p{L}_][\p{L}\p{N}_]*)*[?!]?(?![=\w])|[\p{L}_$@][\p{L}\p{N}_]*/uy
const NUMBER = /0[xXbBoO][\da-fA-F_]+\w*|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?[A-Za-z]*/y
const OPERATOR = /=>|===?|!==?|\?\?=?|\?:|\|\|=?|&&|:=|<=>?|>=|::|->|\+=|-=|\?\.|\.\.\.?|[^\s\w]/uy
const SPACE = /[ \t\r\f\v]+/y
/** What a statement goes on behind. */
const GOES_ON = /^(?:[-+*/%=,.&|?:<>!({[\\]|\?\?|\?:|\|\||&&|=>|:=|->|==)$/
/** What a line begins with that goes on with the one before. */
const CONTINUES = /\s*(?:\??\.[A-Za-z]|\|\||&&|\?\?|\?:|[+?:](?![:\w]))/y
const CLOSERS: Readonly<Record<string, string>> = { '(': ')', '[': ']', '{': '}' }

/**
 * Makes a tree of words, texts and brackets, for languages without a grammar. Statements end with a line or a semicolon, and what
 * stands between commas in brackets is a `Member`; whatever brackets are wrong, the rest is still read.
 *
 * @example
 * buildTokenTree('key = "drill"', RULES).children[0].children.map(({ type }) => type) // ['Word', 'Operator', 'Text']
 */
export function buildTokenTree(text: string, rules: TokenRules): TreeNode {
  const root = growTree('File', 0, text.length)
  new Reader(text, rules).readGroup(root, '')
  return root
}

/** A group may lie so deep in others; what lies deeper is left alone. */
const DEEPEST = 200

class Reader {
  readonly #text: string
  readonly #rules: TokenRules
  #at = 0
  #depth = 0
  /** The ends of texts that begin on the next line. */
  #heredocs: { readonly end: string; readonly node: GrowingNode }[] = []

  constructor(text: string, rules: TokenRules) {
    this.#text = text
    this.#rules = rules
  }

  /** Reads up to a closing bracket, or to the end of the file. */
  readGroup(group: GrowingNode, closer: string): void {
    let item: GrowingNode | null = null
    let hasComma = false
    while (this.#at < this.#text.length && (closer === '' || this.#text[this.#at] !== closer)) {
      const character = this.#text[this.#at]!
      if (character === '\n') {
        if (this.#endsHere(item, closer)) item = null
        this.#newline()
      } else if (this.#parts(character, closer, item)) {
        hasComma ||= character === ','
        this.#at++
        item = null
      } else if (!this.#skip()) item = this.#token(item ?? addNode(group, 'Statement', this.#at, this.#at))
    }
    group.end = Math.min(this.#at + 1, this.#text.length)
    this.#name(group, hasComma || (closer !== '}' && closer !== ''))
  }

  /** What stands between commas is a member; what stands between lines a statement. */
  #name({ children }: GrowingNode, isList: boolean): void {
    for (const each of children) if (isList || this.#isPair(each)) (each as { type: string }).type = 'Member'
  }

  /** True for what parts two statements, or two members of a list. */
  #parts(character: string, closer: string, item: GrowingNode | null): boolean {
    return character === ';' || (character === ',' && closer !== '' && !isCommand(item))
  }

  /** True for `key: value` and `key => value`, alone in its brackets. */
  #isPair({ children: [first, second] }: TreeNode): boolean {
    if (first === undefined || second === undefined || first.type === 'Curly') return false
    return /^(?:=>|:)$/.test(this.#text.slice(second.start, second.end))
  }

  /** True where a statement ends with its line. */
  #endsHere(item: GrowingNode | null, closer: string): boolean {
    if (item === null || closer === ')' || closer === ']') return false
    const last = item.children.at(-1)
    if (last?.type === 'Operator' && GOES_ON.test(this.#text.slice(last.start, last.end))) return false
    CONTINUES.lastIndex = this.#at
    return !CONTINUES.test(this.#text)
  }

  /** Goes on to the next line, or behind the texts that begin there. */
  #newline(): void {
    this.#at++
    for (const { end, node } of this.#heredocs.splice(0)) {
      const closing = new RegExp(`^[ \\t]*${end.replace(/\W/g, '\\$&')}(?!\\w)`, 'm')
      const found = closing.exec(this.#text.slice(this.#at))
      const length = found === null ? this.#text.length - this.#at : found.index + found[0].length
      addNode(node, 'Heredoc', this.#at, this.#at + length)
      this.#at += length
    }
  }

  #skip(): boolean {
    return this.#match(SPACE) !== null || this.#rules.comments.some((each) => this.#match(each) !== null)
  }

  /** Adds a token to a statement. */
  #token(item: GrowingNode): GrowingNode {
    this.#read(item)
    item.end = this.#at
    return item
  }

  #read(item: GrowingNode): unknown {
    const begin = this.#at
    const { texts, others = [], words = [] } = this.#rules
    if (this.#heredoc(item)) return item
    if (words.some((each) => this.#match(each) !== null)) return addNode(item, 'Word', begin, this.#at)
    for (const form of texts) {
      const opening = this.#match(form.opens)
      if (opening !== null) return this.#readText(item, form, begin, opening)
    }
    if (!isBehindValue(item, begin) && others.some((each) => this.#match(each) !== null))
      return addNode(item, 'Other', begin, this.#at)
    const closer = CLOSERS[this.#text[begin]!]
    if (closer !== undefined) return this.#group(item, closer)
    const type = this.#match(NUMBER) !== null ? 'Number' : this.#match(WORD) !== null && 'Word'
    if (type === false && this.#match(OPERATOR) === null) this.#at++
    return addNode(item, type || 'Operator', begin, this.#at)
  }

  /** Takes the name of a text that begins on the next line. */
  #heredoc(item: GrowingNode): boolean {
    const begin = this.#at
    const { heredoc } = this.#rules
    if (heredoc === undefined) return false
    heredoc.lastIndex = begin
    const found = heredoc.exec(this.#text)
    if (found === null) return false
    this.#at += found[0].length
    this.#heredocs.push({ end: found[1] ?? found[2]!, node: addNode(item, 'Heredocs', begin, this.#at) })
    return true
  }

  #group(item: GrowingNode, closer: string): void {
    const begin = this.#at
    const before = item.children.at(-1)
    const isCall = closer === ')' && before?.type === 'Word' && before.end === begin
    const plain = { ')': 'Round', ']': 'Square', '}': 'Curly' }[closer]!
    this.#at++
    const group = addNode(item, isCall ? 'Arguments' : plain, begin, begin)
    if (this.#depth < DEEPEST) {
      this.#depth++
      this.readGroup(group, closer)
      this.#depth--
    }
    this.#at++
    group.end = Math.min(this.#at, this.#text.length)
  }

  #readText(item: GrowingNode, form: TextForm, begin: number, opening: string): void {
    const node = addNode(item, 'Text', begin, begin)
    const closing = form.closes(opening)
    while (this.#at < this.#text.length && !this.#text.startsWith(closing, this.#at)) {
      if (form.escapes && this.#text[this.#at] === '\\') this.#at += 2
      else if (form.interpolates !== undefined && this.#opensPart(form.interpolates))
        this.#part(node, form.interpolates)
      // A quote that is never closed ends with its line.
      else if (this.#text[this.#at] === '\n' && closing.length === 1 && closing !== '`' && !form.escapes) break
      else this.#at++
    }
    this.#at = Math.min(this.#at + closing.length, this.#text.length)
    node.end = this.#at
  }

  #opensPart(mark: string): boolean {
    if (this.#text.startsWith(mark, this.#at)) return mark !== '{' || this.#text[this.#at + 1] !== '{'
    return mark === '${' && /\$[A-Za-z_]/y.test(this.#text.slice(this.#at, this.#at + 2))
  }

  #part(node: GrowingNode, mark: string): void {
    const begin = this.#at
    if (!this.#text.startsWith(mark, begin)) {
      this.#at++
      this.#match(WORD)
      addNode(node, 'Part', begin, this.#at)
      return
    }
    this.#at += mark.length
    const part = addNode(node, 'Part', begin, begin)
    if (this.#depth < DEEPEST) {
      this.#depth++
      this.readGroup(part, '}')
      this.#depth--
    }
    this.#at = Math.min(this.#at + 1, this.#text.length)
    part.end = this.#at
  }

  #match(pattern: RegExp): string | null {
    pattern.lastIndex = this.#at
    const found = pattern.exec(this.#text)
    if (found === null || found[0] === '') return null
    this.#at += found[0].length
    return found[0]
  }
}

/** True where what comes is an operator, since a value ends right there. */
function isBehindValue({ children }: TreeNode, at: number): boolean {
  const last = children.at(-1)
  return last !== undefined && last.end === at && /^(?:Word|Text|Number|Arguments|Round|Square)$/.test(last.type)
}

/** True for a call without brackets, whose arguments stand between commas: `puts key, url`. */
function isCommand(item: GrowingNode | null): boolean {
  const [first, second] = item?.children ?? []
  return (
    first?.type === 'Word' &&
    second !== undefined &&
    /^(?:Text|Word|Number)$/.test(second.type) &&
    second.start > first.end
  )
}
