import type { TextEdit } from '@mappa/core/text/edits'
import { types } from '../tree/grammar.ts'
import { endOfLine, startOfLine } from '../tree/lines.ts'
import { findAncestor, findSibling, type TreeNode } from '../tree/node.ts'
import { type ChangedLiteral, chooseQuote, type TreeRewriting } from '../tree/rewriting.ts'

/** How Python reads its environment. */
export const pythonRewriting: TreeRewriting = {
  read({ name, form }, literal, wanted) {
    const { text, node } = literal
    const quote = getQuote(literal, wanted)
    const read = `${getAccess(literal)}[${quote}${name}${quote}]`
    if (form === 'number') return isConverted(literal) ? read : `int(${read})`
    return /^[a-z]*b/i.test(findFirstText(literal, node)) && /^[A-Za-z]+["']/.test(text.slice(node.start, node.end))
      ? `${read}.encode()`
      : read
  },
  join: ' + ',
  beside({ node, text }, read) {
    if (node.parent?.type !== 'ContinuedString') return undefined
    const [, prefix = '', quote] = /^([A-Za-z]*)(["'])/.exec(text.slice(node.start, node.end)) ?? []
    if (/b/i.test(prefix)) return null
    const expression = read(quote === '"' ? "'" : '"')
    return expression === null ? null : `f${quote}{${expression}}${quote}`
  },
  within: (opening) => (/f/i.test(opening) && !/["']{3}/.test(opening) ? ['{', '}'] : null),
  obstacle({ node, text }) {
    if (node.parent?.type === 'ExpressionStatement') return 'docstring'
    if (findAncestor(node, types('MatchClause')) !== null) return 'pattern'
    if (isLiteralType(node, text)) return 'type'
    return null
  },
  fallback({ node, text, grammar }) {
    const call = node.parent?.type === 'ArgList' ? node.parent.parent : null
    if (call !== null && grammar.readName(text.slice(call.start, call.end)) !== undefined) return call
    const operation = node.parent
    if (operation?.type !== 'BinaryExpression' || findSibling(node, 1) !== undefined) return null
    return isRead(text.slice(operation.start, findSibling(node, -1)!.start)) ? operation : null
  },
  complete(text, tree, edits) {
    const local = edits.some(({ by }) => /\bos\.environ\b/.test(by))
    return local && !importsOs(text, tree) ? [importEdit(text, tree), ...edits] : edits
  },
  start: (file) => `python3 ${file}`,
}

/** Another quote than that of a format around it, which older versions can't have within. */
function getQuote({ text, node }: ChangedLiteral, quote: '"' | "'"): '"' | "'" {
  const format = findAncestor(node, types('FormatString'))
  const around = format === null ? null : chooseQuote(text.slice(format.start, format.end))
  if (around === null) return quote
  return around === '"' ? "'" : '"'
}

/** A whole read of a variable, and nothing else. */
function isRead(text: string): boolean {
  return /^\s*(?:os\.)?(?:environ(?:\.get\(\s*(["'])\w+\1\s*\)|\[\s*(["'])\w+\2\s*\])|getenv\(\s*(["'])\w+\3\s*\))\s*$/.test(
    text,
  )
}

/** `os.environ`, or the name under which the file knows it. */
function getAccess({ text }: ChangedLiteral): string {
  const own = /^from os import [^\n#]*\benviron\b(?: as (\w+))?/m.exec(text)
  if (own !== null) return own[1] ?? 'environ'
  const renamed = /^import os as (\w+)/m.exec(text)
  return renamed === null ? 'os.environ' : `${renamed[1]}.environ`
}

/** True where the code makes a number of the value itself. */
function isConverted({ node, text }: ChangedLiteral): boolean {
  const list =
    node.parent?.parent?.type === 'CallExpression' &&
    /environ|getenv/.test(text.slice(node.parent.parent.start, node.start))
      ? node.parent.parent.parent
      : node.parent
  return list?.type === 'ArgList' && /\b(?:int|float)$/.test(text.slice(Math.max(0, list.start - 8), list.start))
}

function findFirstText({ text }: ChangedLiteral, node: TreeNode): string {
  return text.slice(node.start, node.start + 3)
}

/** True within `Literal[...]`, whose texts are types. */
function isLiteralType(node: TreeNode, text: string): boolean {
  const { parent } = node
  return parent?.type === 'MemberExpression' && /\bLiteral$/.test(text.slice(parent.start, parent.children[1]?.start))
}

function importsOs(text: string, tree: TreeNode): boolean {
  return tree.children.some(
    (each) =>
      each.type === 'ImportStatement' &&
      /^import\b(?:[^#\n]*,)?\s*os(?:\.\w+)*\s*(?:,|$)/.test(text.slice(each.start, each.end)),
  )
}

/** Adds `import os` where its name belongs among the other imports, behind what must come first. */
function importEdit(text: string, tree: TreeNode): TextEdit {
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const statements = tree.children.filter(({ type }) => type !== 'Comment')
  const isFuture = (each: TreeNode) => /^from\s+__future__\b/.test(text.slice(each.start, each.end))
  const plain = statements.filter((each) => each.type === 'ImportStatement' && !isFuture(each))
  const [first] = plain
  if (first !== undefined) {
    // In the first block of imports, which is the one of the standard library.
    const block: TreeNode[] = [first]
    for (const each of plain.slice(1)) {
      if (/\n[ \t]*\r?\n/.test(text.slice(block.at(-1)!.end, each.start))) break
      block.push(each)
    }
    const behind = block.find(
      (each) => /^import\s+(\w+)/.exec(text.slice(each.start, each.end))?.[1]?.localeCompare('os') === 1,
    )
    const next = behind ?? block.find((each) => text.startsWith('from', each.start))
    const last = block.at(-1)!
    if (next !== undefined) return insertImport(text, next, eol)
    const end = endOfLine(text, last.end)
    return { from: end, to: end, by: `${eol}import os` }
  }
  const head = statements.filter((each, at) => isFuture(each) || (at === 0 && isDocstring(each))).at(-1)
  if (head !== undefined) {
    const end = endOfLine(text, head.end)
    return { from: end, to: end, by: `${eol}${isDocstring(head) ? eol : ''}import os` }
  }
  const start = startOfCode(text)
  return { from: start, to: start, by: `import os${eol}${eol}` }
}

const isDocstring = ({ type, children }: TreeNode) =>
  type === 'ExpressionStatement' && /String$/.test(children[0]?.type ?? '')

function insertImport(text: string, { start }: TreeNode, eol: string): TextEdit {
  // A byte order mark stays in front of all.
  const from = Math.max(startOfLine(text, start), text.startsWith('\ufeff') ? 1 : 0)
  return { from, to: from, by: `import os${eol}` }
}

/** Behind a byte order mark, the line that names the interpreter, and the one that names the encoding. */
function startOfCode(text: string): number {
  return /^\ufeff?(?:#![^\n]*\n)?(?:#[^\n]*coding[:=][^\n]*\n)?(?:#[^\n]*\n)*\n?/.exec(text)![0].length
}
