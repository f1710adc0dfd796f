import type { Node, Program, Statement } from '@babel/types'
import type { TextEdit } from '@mappa/core/text/edits'
import { getRange } from '@mappa/source/javascript/place'
import { readPlainName } from '@mappa/source/javascript/tree'

/** An import to add to a file. */
interface NewImport {
  /** Its text, by the quote and by what ends a statement there. */
  readonly write: (quote: string, end: string) => string
  /** What counts as an import; every import statement where it is left out. */
  readonly imports?: readonly Node[]
  /** Where the first use of what is imported stands: a call of `require` runs where it stands, so it goes before that. */
  readonly before?: number
}

/**
 * Adds an import after those that a file has, with its quotes, semicolons and line ends.
 *
 * @param tree the file, parsed
 */
export function importEdit(
  text: string,
  tree: Program,
  { write, imports = listImports(tree), before }: NewImport,
): TextEdit {
  const { body } = tree
  const statement = write(chooseQuote(text, imports), usesSemicolons(text, body) ? ';' : '')
  const inTime = before === undefined ? imports : leading(body, imports, before)
  return makeInsertion(text, tree, inTime, statement)
}

function listImports({ body }: Program): readonly Node[] {
  return body.filter(({ type }) => type === 'ImportDeclaration')
}

/** The imports that have run when the first use comes: those on top of the file. */
function leading(body: readonly Statement[], imports: readonly Node[], before: number): readonly Node[] {
  const first = body.findIndex((node) => !imports.includes(node) && !isBareRequire(node))
  const end = Math.min(before, first < 0 ? Number.POSITIVE_INFINITY : getRange(body[first]!).start)
  return imports.filter((node) => getRange(node).end <= end)
}

/** `require('./early.js')` for what it does. */
function isBareRequire(node: Node): boolean {
  if (node.type !== 'ExpressionStatement' || node.expression.type !== 'CallExpression') return false
  return readPlainName(node.expression.callee) === 'require'
}

/** After the last import; where there is none, on top, but below what has to come first. */
function makeInsertion(text: string, tree: Program, imports: readonly Node[], statement: string): TextEdit {
  const eol = /\r\n/.test(text) ? '\r\n' : '\n'
  const last = imports.at(-1) ?? tree.directives.at(-1)
  if (last !== undefined) {
    const { end } = getRange(last)
    const lineEnd = endOfLine(text, end)
    // Other code behind it on its line stays behind, on a line of its own.
    if (/^[ \t;]*(\/\/.*|\/\*.*\*\/[ \t]*)?$/.test(text.slice(end, lineEnd)))
      return { from: lineEnd, to: lineEnd, by: `${eol}${statement}` }
    const blanks = /^[ \t]*/.exec(text.slice(end))![0].length
    return { from: end, to: end + blanks, by: `${eol}${statement}${eol}` }
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

function chooseQuote(text: string, [first]: readonly Node[]): string {
  if (first === undefined) return findQuote(text)
  const { start, end } = getRange(first)
  return findQuote(text.slice(start, end))
}

/** The quote that a piece of code has more of. */
export function findQuote(code: string): string {
  return (code.match(/"/g)?.length ?? 0) > (code.match(/'/g)?.length ?? 0) ? '"' : "'"
}

/** True for a file that ends its statements so. */
function usesSemicolons(text: string, body: readonly Statement[]): boolean {
  const telling = body.filter((node) => {
    const isExport = node.type === 'ExportNamedDeclaration' || node.type === 'ExportDefaultDeclaration'
    const inner = isExport ? (node.declaration?.type ?? '') : ''
    return /^(Import|Export|Variable|Expression)/.test(node.type) && !/^(Function|Class|TS)/.test(inner)
  })
  return telling.length > 0 && telling.every((each) => text[getRange(each).end - 1] === ';')
}
