import type { SyntaxNode } from './parser.ts'
import { isNode, readPlainName } from './tree.ts'

/** A name in a list, each of which is read. */
interface ListedName {
  readonly name: string
  readonly at: SyntaxNode
  /** True where the list is searched for names without a value. */
  readonly isTested: boolean
}

/** Methods that search a list. */
const SEARCHES = new Set(['filter', 'find', 'some', 'every', 'findIndex'])
const FUNCTIONS = new Set(['ArrowFunctionExpression', 'FunctionExpression'])

/**
 * The names of which a variable is one: `for (const name of ['DOME_URL', 'DOME_KEY'])`, `names.filter((name) => ...)`.
 *
 * @param variable what a name is called in the code
 * @param above the nodes above, the nearest last
 */
export function findListedReads(variable: string, above: readonly SyntaxNode[]): readonly ListedName[] {
  for (let at = above.length - 1; at >= 0; at--) {
    const node = above[at]!
    if (node.type === 'ForOfStatement' && declares(node.left, variable))
      return findNames(node.right, above.slice(0, at), false)
    if (!FUNCTIONS.has(node.type) || !(node.params as SyntaxNode[]).some((each) => readPlainName(each) === variable))
      continue
    const call = above[at - 1]
    if (call?.type !== 'CallExpression' || !isNode(call.callee) || call.callee.type !== 'MemberExpression') return []
    const isTested = SEARCHES.has(readPlainName(call.callee.property))
    return findNames(call.callee.object, above.slice(0, at), isTested)
  }
  return []
}

function declares(node: unknown, variable: string): boolean {
  if (!isNode(node) || node.type !== 'VariableDeclaration') return false
  return (node.declarations as SyntaxNode[]).some(({ id }) => readPlainName(id) === variable)
}

/** The names of a list, which stands there or is a constant of the file. */
function findNames(list: unknown, above: readonly SyntaxNode[], isTested: boolean): readonly ListedName[] {
  const node = isNode(list) && list.type === 'Identifier' ? findConstant(String(list.name), above) : list
  const plain = isNode(node) && node.type === 'TSAsExpression' ? node.expression : node
  if (!isNode(plain) || plain.type !== 'ArrayExpression') return []
  return (plain.elements as (SyntaxNode | null)[]).flatMap((each) =>
    each?.type === 'StringLiteral' ? [{ name: String(each.value), at: each, isTested }] : [],
  )
}

/** What a constant is given in a block around, or in the file. */
function findConstant(name: string, above: readonly SyntaxNode[]): unknown {
  for (const { body } of [...above].reverse()) {
    if (!Array.isArray(body)) continue
    for (const statement of body as SyntaxNode[]) {
      const declared =
        statement.type === 'ExportNamedDeclaration' ? (statement.declaration as SyntaxNode | null) : statement
      if (declared?.type !== 'VariableDeclaration') continue
      const found = (declared.declarations as SyntaxNode[]).find(({ id }) => readPlainName(id) === name)
      if (found !== undefined) return found.init
    }
  }
  return null
}
