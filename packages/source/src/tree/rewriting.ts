import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import type { ObstacleCode } from '../obstacles.ts'
import type { FileSurroundings, ReadVariable, Replaceable, Rewriting } from '../rewriting.ts'
import type { Grammar } from './grammar.ts'
import { ERROR } from './lezer.ts'
import { findTreeLiterals, listQuotes, type TreeLiteral } from './literals.ts'
import { findSibling, type TreeNode, walkNodes } from './node.ts'
import type { TreeText } from './step.ts'

/** A literal of a file that is changed. */
export interface ChangedLiteral extends TreeText {
  readonly node: TreeNode
  readonly around: FileSurroundings
}

/** How a language with a syntax tree reads variables in its code. */
export interface TreeRewriting {
  /**
   * The expression that reads a variable.
   *
   * @param quote the quote that texts around it have
   * @returns `null` where there is none for such a value
   */
  readonly read: (variable: ReadVariable, literal: ChangedLiteral, quote: '"' | "'") => string | null
  /** What joins two texts. */
  readonly join: string
  /** A text that holds nothing but an expression, where texts side by side are one; `null` where there can be none. */
  readonly beside?: (literal: ChangedLiteral, read: (quote: '"' | "'") => string | null) => string | null | undefined
  /** What an expression stands in within a text that can hold one; `null` for one that can't. */
  readonly within: (opening: string) => readonly [before: string, after: string] | null
  /** Why a literal can't be replaced by an expression. */
  readonly obstacle: (literal: ChangedLiteral) => ObstacleCode | null
  /** True for a text that no edit can take a part out of. */
  readonly isWhole?: (raw: string) => boolean
  /** The whole of what reads a variable and has the literal in the place of a missing value. */
  readonly fallback: (literal: ChangedLiteral, variable: string) => TreeNode | null
  /** Edits in the place of the plain one, where a declaration has to change as well; `undefined` where it need not. */
  readonly declare?: (
    literal: ChangedLiteral,
    read: (quote: '"' | "'") => string | null,
  ) => readonly TextEdit[] | null | undefined
  readonly complete?: (
    text: string,
    tree: TreeNode,
    edits: readonly TextEdit[],
    around: FileSurroundings,
  ) => readonly TextEdit[]
  readonly tidy?: (text: string) => string
  readonly start: (file: string) => string
}

/** Makes the rewriting of a language of its grammar and of how it reads variables. */
export function rewriteByTree(grammar: Grammar, how: TreeRewriting): Rewriting {
  const { complete, tidy } = how
  return {
    find: (text, file, around) => {
      const source = { text, grammar }
      const literals = findTreeLiterals(source, grammar.parse(text), file)
      return literals.map((each) => replaceable(each, { ...source, node: each.node, around }, how))
    },
    ...(complete === undefined
      ? {}
      : { complete: (text, edits, around) => complete(text, grammar.parse(text), edits, around) }),
    ...(tidy === undefined ? {} : { tidy }),
    faults: (text) => [...walkNodes(grammar.parse(text))].filter(({ type }) => type === ERROR).length,
    start: how.start,
  }
}

function replaceable(found: TreeLiteral, literal: ChangedLiteral, how: TreeRewriting): Replaceable {
  const { line, column, start, end, value, form, variable } = found
  return {
    line,
    column,
    start,
    end,
    value,
    form: form === 'number' ? 'number' : 'text',
    variable,
    obstacle: how.obstacle(literal),
    replace: (wanted) => replaceWhole(found, literal, wanted, how),
    replacePart: (wanted, from, to) => replacePart(literal, wanted, from, to, how),
    replaceAround: (wanted, from, to) => replaceNode(found, literal, wanted, from, to, how),
  }
}

function replaceWhole(found: TreeLiteral, literal: ChangedLiteral, wanted: ReadVariable, how: TreeRewriting) {
  const { text, node } = literal
  if (found.form === 'template part') return replacePart(literal, wanted, found.start, found.end, how)
  const read = (quote: '"' | "'") =>
    how.read({ ...wanted, form: found.form === 'number' ? 'number' : 'text' }, literal, quote)
  const beside = how.beside?.(literal, read)
  if (beside !== undefined) return beside === null ? null : [edit(text, node.start, node.end, beside)]
  const declared = how.declare?.(literal, read)
  if (declared !== undefined) return declared
  const fallback = found.variable === wanted.name ? how.fallback(literal, wanted.name) : null
  const { start, end } = fallback ?? node
  return readSurrounding(literal, read, start, end)
}

/** The edit that puts the reading of a variable in the place of a literal, or of more around it. */
function readSurrounding(
  { text, node }: ChangedLiteral,
  read: (quote: '"' | "'") => string | null,
  start: number,
  end: number,
): readonly TextEdit[] | null {
  const expression = read(chooseQuote(text.slice(node.start, node.end)) ?? quoteStyle(text))
  return expression === null ? null : [edit(text, start, end, expression)]
}

/** Puts the reading of a variable in the place of a conditional; `null` where a declaration would have to change as well. */
function replaceNode(
  found: TreeLiteral,
  literal: ChangedLiteral,
  wanted: ReadVariable,
  start: number,
  end: number,
  how: TreeRewriting,
): readonly TextEdit[] | null {
  const form = found.form === 'number' ? 'number' : 'text'
  const read = (quote: '"' | "'") => how.read({ ...wanted, form }, literal, quote)
  if (how.declare?.(literal, read) !== undefined) return null
  return readSurrounding(literal, read, start, end)
}

/** An edit whose text stands apart from the words around it. */
function edit(text: string, from: number, to: number, by: string): TextEdit {
  const before = /[\w$]/.test(text[from - 1] ?? '') && /^\w/.test(by) ? ' ' : ''
  const after = /[\w$]/.test(text[to] ?? '') && /\w$/.test(by) ? ' ' : ''
  return { from, to, by: `${before}${by}${after}` }
}

/** Takes a part out of a text: the text ends before it and begins again behind it, or holds the expression. */
function replacePart(
  literal: ChangedLiteral,
  wanted: ReadVariable,
  start: number,
  end: number,
  how: TreeRewriting,
): readonly TextEdit[] | null {
  const { text } = literal
  const node = findText(literal, start, end)
  const raw = node === null ? '' : text.slice(node.start, node.end)
  // What stands behind a backslash is part of it.
  const isEscaped = /(?:^|[^\\])(?:\\\\)*\\$/.test(text.slice(node?.start, start))
  // Three quotes end where a fourth stands beside them.
  const triple = /^[A-Za-z]*("""|''')/.exec(raw)?.[1]?.[0]
  const isBesideQuote = triple !== undefined && [text[start - 1], text[end]].includes(triple)
  if (node === null || isEscaped || isBesideQuote || how.isWhole?.(raw) === true) return null
  const edits = makePartEdits({ ...literal, node }, { ...wanted, form: 'text' }, start, end, how)
  if (edits === null || node !== literal.node) return edits
  // The whole of what a declaration has for its value, after the change.
  const inner = edits.map(({ from, to, by }) => ({ from: from - node.start, to: to - node.start, by }))
  const declared = how.declare?.(literal, () => applyEdits(raw, inner))
  return declared === undefined ? edits : declared
}

function makePartEdits(
  literal: ChangedLiteral,
  wanted: ReadVariable,
  start: number,
  end: number,
  how: TreeRewriting,
): readonly TextEdit[] | null {
  const { text, node } = literal
  const [opens] = listQuotes(text.slice(node.start, node.end))
  const opening = text.slice(node.start, node.start + opens)
  const quote = chooseQuote(opening) ?? '"'
  const within = how.within(opening)
  const isOneQuote = opening.replace(/[^"']/g, '').length === 1
  const expression = how.read(wanted, literal, within !== null && isOneQuote ? chooseOtherQuote(quote) : quote)
  if (expression === null) return null
  if (within !== null) return [{ from: start, to: end, by: within[0] + expression + within[1] }]
  const beside = how.beside?.(literal, (each) => how.read(wanted, literal, each))
  if (beside === null) return null
  return beside === undefined
    ? splitEdits(literal, start, end, expression, how.join)
    : splitEdits(literal, start, end, beside, ' ')
}

/** The edits by which a text ends before an expression and begins again behind it. */
function splitEdits(
  { text, node }: ChangedLiteral,
  start: number,
  end: number,
  expression: string,
  join: string,
): readonly TextEdit[] {
  const raw = text.slice(node.start, node.end)
  const [opens, closes] = listQuotes(raw)
  const isFirst = start === node.start + opens
  const isLast = end === node.end - closes
  const [open, close] = join === ' ' || standsAlone(node, text, join.trim()) ? ['', ''] : ['(', ')']
  const before = isFirst ? open : `${raw.slice(raw.length - closes)}${join}`
  const after = isLast ? close : `${join}${raw.slice(0, opens)}`
  return [
    ...(isFirst ? [] : [{ from: node.start, to: node.start, by: open }]),
    { from: isFirst ? node.start : start, to: isLast ? node.end : end, by: before + expression + after },
    ...(isLast ? [] : [{ from: node.end, to: node.end, by: close }]),
  ].filter(({ from, to, by }) => from < to || by !== '')
}

/** The one text, of several that are joined, in which a part lies; `null` where it lies in more than one. */
function findText({ node, grammar }: ChangedLiteral, start: number, end: number): TreeNode | null {
  for (const each of walkNodes(node)) {
    const isText = grammar.texts.has(each.type) || grammar.formats.has(each.type)
    if (isText && each.start <= start && end <= each.end) return each
  }
  return null
}

/** True where an operation can stand in the place of a text without brackets. */
function standsAlone(node: TreeNode, text: string, join: string): boolean {
  const around = [findSibling(node, -1), findSibling(node, 1)].map((each) =>
    each === undefined ? '' : text.slice(each.start, each.end),
  )
  const isBound = around.some(
    (each) => /^(?:[%*/.]|->|\?\.|==+|!==?|<<|>>|in|not|is|<=?|>=?)$/.test(each) && each !== join,
  )
  return !isBound && !/Member|Field|Selector|MethodInvocation/.test(node.parent?.type ?? '')
}

/** The quote that a text has around it. */
export function chooseQuote(raw: string): '"' | "'" | null {
  return (/^[A-Za-z@$]*#*(["'])/.exec(raw)?.[1] ?? null) as '"' | "'" | null
}

const chooseOtherQuote = (quote: '"' | "'") => (quote === '"' ? "'" : '"')

/** The quote that most texts of a file have. */
export function quoteStyle(text: string): '"' | "'" {
  const count = (quote: string) => text.split(quote).length
  return count("'") > count('"') ? "'" : '"'
}
