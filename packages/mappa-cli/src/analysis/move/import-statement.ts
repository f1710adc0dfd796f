import type { TextEdit } from '@mappa/core/text/edits'
import type { SyntaxNode } from '@mappa/source/javascript/parser'

/**
 * Adds an import after those that a file has, with its quotes, semicolons and line ends.
 *
 * @param tree the file, parsed
 * @param statement is given the quote and what ends a statement
 * @param imports what counts as an import; without it, every import statement
 * @param before where the first use of what is imported stands: a call of `require` runs where it stands, so it goes before that
 */
export function importEdit(
  text: string,
  tree: SyntaxNode,
  statement: (quote: string, end: string) => string,
  imports: readonly SyntaxNode[] = listImports(tree),
  before = Number.POSITIVE_INFINITY,
): TextEdit {
  const body = tree.body as readonly SyntaxNode[]
  return makeInsertion(
    text,
    tree,
    leading(body, imports, before),
    statement(chooseQuote(text, imports), usesSemicolons(text, body) ? ';' : ''),
  )
}

function listImports(tree: SyntaxNode): readonly SyntaxNode[] {
  return (tree.body as readonly SyntaxNode[]).filter(({ type }) => type === 'ImportDeclaration')
}

/** The imports that have run when the first use comes: those on top of the file. */
function leading(body: readonly SyntaxNode[], imports: readonly SyntaxNode[], before: number): readonly SyntaxNode[] {
  if (before === Number.POSITIVE_INFINITY) return imports
  const first = body.findIndex((node) => !imports.includes(node) && !isBareRequire(node))
  const end = Math.min(before, first < 0 ? Number.POSITIVE_INFINITY : body[first]!.start)
  return imports.filter((node) => node.end <= end)
}

/** `require('./early.js')` for what it does. */
function isBareRequire({ type, expression }: SyntaxNode): boolean {
  const call = expression as SyntaxNode | undefined
  const callee = call?.callee as SyntaxNode | undefined
  return type === 'ExpressionStatement' && call?.type === 'CallExpression' && callee?.name === 'require'
}

/** After the last import; where there is none, on top, but below what has to come first. */
function makeInsertion(text: string, tree: SyntaxNode, imports: readonly SyntaxNode[], statement: string): TextEdit {
  const eol = /\r\n/.test(text) ? '\r\n' : '\n'
  const last = imports.at(-1) ?? (tree.directives as readonly SyntaxNode[]).at(-1)
  if (last !== undefined) {
    const lineEnd = endOfLine(text, last.end)
    // Other code behind it on its line stays behind, on a line of its own.
    if (/^[ \t;]*(\/\/.*|\/\*.*\*\/[ \t]*)?$/.test(text.slice(last.end, lineEnd)))
      return { from: lineEnd, to: lineEnd, by: `${eol}${statement}` }
    const blanks = /^[ \t]*/.exec(text.slice(last.end))![0].length
    return { from: last.end, to: last.end + blanks, by: `${eol}${statement}${eol}` }
  }
  const at = findTop(text)
  const gap = /^\s*\r?\n/.test(text.slice(at)) || text.slice(at) === '' ? '' : eol
  return { from: at, to: at, by: `${statement}${eol}${gap}` }
}

/** Where code can begin: behind a byte-order mark, `#!`, and comments that stand apart from what follows. */
function findTop(text: string): number {
  const header = /^\ufeff?(#!.*\r?\n)?((\s*(\/\/.*|\/\*[\s\S]*?\*\/)[ \t]*\r?\n)+[ \t]*\r?\n)?/.exec(text)
  return header?.[0].length ?? 0
}

function endOfLine(text: string, at: number): number {
  const end = text.indexOf('\n', at)
  if (end < 0) return text.length
  return text[end - 1] === '\r' ? end - 1 : end
}

function chooseQuote(text: string, imports: readonly SyntaxNode[]): string {
  const [first] = imports
  return findQuote(first === undefined ? text : text.slice(first.start, first.end))
}

/** The quote that a piece of code has more of. */
export function findQuote(code: string): string {
  return (code.match(/"/g)?.length ?? 0) > (code.match(/'/g)?.length ?? 0) ? '"' : "'"
}

/** True for a file that ends its statements so. */
function usesSemicolons(text: string, body: readonly SyntaxNode[]): boolean {
  const telling = body.filter(({ type, declaration }) => {
    const inner = (declaration as SyntaxNode | null | undefined)?.type ?? ''
    return /^(Import|Export|Variable|Expression)/.test(type) && !/^(Function|Class|TS)/.test(inner)
  })
  return telling.length > 0 && telling.every(({ end }) => text[end - 1] === ';')
}
