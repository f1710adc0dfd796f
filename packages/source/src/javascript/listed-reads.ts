import type { Node, Statement } from '@babel/types'
import { readPlainName } from './tree.ts'

/** A name in a list, each of which is read. */
interface ListedName {
  readonly name: string
  readonly at: Node
  /** True where the list is searched for names without a value. */
  readonly isTested: boolean
}

/** Methods that search a list. */
const SEARCHES = new Set(['filter', 'find', 'some', 'every', 'findIndex'])

/**
 * The names of which a variable is one: `for (const name of ['DOME_URL', 'DOME_KEY'])`, `names.filter((name) => ...)`.
 *
 * @param variable what a name is called in the code
 * @param above the nodes above, the nearest last
 */
export function findListedReads(variable: string, above: readonly Node[]): readonly ListedName[] {
  for (let at = above.length - 1; at >= 0; at--) {
    const node = above[at]!
    if (node.type === 'ForOfStatement' && declares(node.left, variable))
      return findNames(node.right, above.slice(0, at), false)
    if (node.type !== 'ArrowFunctionExpression' && node.type !== 'FunctionExpression') continue
    if (!node.params.some((each) => readPlainName(each) === variable)) continue
    const call = above[at - 1]
    if (call?.type !== 'CallExpression' || call.callee.type !== 'MemberExpression') return []
    const isTested = SEARCHES.has(readPlainName(call.callee.property))
    return findNames(call.callee.object, above.slice(0, at), isTested)
  }
  return []
}

function declares(node: Node, variable: string): boolean {
  return node.type === 'VariableDeclaration' && node.declarations.some(({ id }) => readPlainName(id) === variable)
}

/** The names of a list, which stands there or is a constant of the file. */
function findNames(list: Node, above: readonly Node[], isTested: boolean): readonly ListedName[] {
  const node = list.type === 'Identifier' ? findConstant(list.name, above) : list
  const plain = node?.type === 'TSAsExpression' ? node.expression : node
  if (plain?.type !== 'ArrayExpression') return []
  return plain.elements.flatMap((each) =>
    each?.type === 'StringLiteral' ? [{ name: each.value, at: each, isTested }] : [],
  )
}

/** What a constant is given in a block around, or in the file. */
function findConstant(name: string, above: readonly Node[]): Node | null | undefined {
  for (const node of [...above].reverse()) {
    for (const statement of listStatements(node)) {
      const declared = statement.type === 'ExportNamedDeclaration' ? statement.declaration : statement
      if (declared?.type !== 'VariableDeclaration') continue
      const found = declared.declarations.find(({ id }) => readPlainName(id) === name)
      if (found !== undefined) return found.init
    }
  }
  return null
}

function listStatements(node: Node): readonly Statement[] {
  switch (node.type) {
    case 'Program':
    case 'BlockStatement':
    case 'StaticBlock':
    case 'TSModuleBlock':
      return node.body
    default:
      return []
  }
}
