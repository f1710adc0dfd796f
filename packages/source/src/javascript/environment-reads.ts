import type { SyntaxNode } from './syntax-node.ts'
import { isNode, readPlainName, visit } from './tree.ts'

/** The objects whose members page code reads. */
export type EnvironmentObject = 'process.env' | 'import.meta.env'

/** A read of an environment. */
export interface EnvironmentRead {
  readonly object: EnvironmentObject
  /** `null` where the name is not written out. */
  readonly name: string | null
  /** The expression, or the object where names are taken out of it. */
  readonly node: SyntaxNode
  /** True where one of several names is taken out of the object: the object itself stays, and gets members. */
  readonly destructured: boolean
}

/**
 * All reads of an environment in a program, a tree of ESTree or of Babel; not what code writes or deletes there. An object that is
 * handed on, or taken out of `process`, is a read whose name is not written out.
 */
export function findEnvironmentReads(program: { readonly type: string }): EnvironmentRead[] {
  const reads: EnvironmentRead[] = []
  let ownProcess = false
  visit<SyntaxNode>(program, (node, above) => {
    ownProcess ||= declaresProcess(node, above.at(-1))
    if (takesEnvironment(node)) reads.push({ object: 'process.env', name: null, node, destructured: false })
    const object = getEnvironment(node)
    if (object === null) return
    reads.push(...listReads(object, node, above))
    return false
  })
  return reads.filter(({ object }) => object !== 'process.env' || !ownProcess)
}

/** What is read of an environment that stands in an expression. */
function listReads(object: EnvironmentObject, node: SyntaxNode, above: readonly SyntaxNode[]): EnvironmentRead[] {
  const outside = above.findLastIndex(({ type }) => !WRAPPERS.has(type))
  const parent = above[outside]
  const inner = above[outside + 1] ?? node
  if (parent !== undefined && isMember(parent) && parent.object === inner) {
    if (isWritten(parent, above[outside - 1])) return []
    return [{ object, name: getName(parent), node: parent, destructured: false }]
  }
  const pattern = parent?.type === 'VariableDeclarator' ? (parent.id as SyntaxNode) : null
  if (pattern?.type !== 'ObjectPattern') return [{ object, name: null, node, destructured: false }]
  return (pattern.properties as SyntaxNode[]).map((each) => {
    const isPlain = (each.type === 'Property' || each.type === 'ObjectProperty') && each.computed !== true
    return { object, name: isPlain ? readPlainName(each.key) : null, node, destructured: true }
  })
}

/** What stands around an expression without changing it. */
const WRAPPERS: ReadonlySet<string> = new Set([
  'ChainExpression',
  'ParenthesizedExpression',
  'TSAsExpression',
  'TSNonNullExpression',
  'TSSatisfiesExpression',
  'TSTypeAssertion',
])

function isWritten(node: SyntaxNode, parent: SyntaxNode | undefined): boolean {
  if (parent?.type === 'AssignmentExpression') return parent.left === node
  return parent?.type === 'UpdateExpression' || (parent?.type === 'UnaryExpression' && parent.operator === 'delete')
}

/** Which environment a node is, if any: `import.meta.env` or `process.env`, also that of `globalThis`. */
function getEnvironment(node: SyntaxNode): EnvironmentObject | null {
  if (!isMember(node) || getName(node) !== 'env') return null
  const object = node.object as SyntaxNode
  if (object.type === 'MetaProperty') return readPlainName(object.property) === 'meta' ? 'import.meta.env' : null
  return isProcess(object) ? 'process.env' : null
}

function isProcess(node: SyntaxNode): boolean {
  if (isMember(node)) return getName(node) === 'process' && GLOBALS.has(readPlainName(node.object))
  return node.type === 'Identifier' && node.name === 'process'
}

const GLOBALS: ReadonlySet<string> = new Set(['globalThis', 'window', 'self', 'global'])

/** True for `{ env } = process`. */
function takesEnvironment({ type, id, init }: SyntaxNode): boolean {
  if (type !== 'VariableDeclarator' || !isNode(init) || !isProcess(init)) return false
  const { properties } = id as { properties?: readonly SyntaxNode[] }
  return properties?.some(({ key }) => readPlainName(key) === 'env') === true
}

/** True where the name `process` stands for something of the module's own. */
function declaresProcess(node: SyntaxNode, parent: SyntaxNode | undefined): boolean {
  if (node.type === 'VariableDeclarator') return readPlainName(node.id) === 'process'
  if (node.type !== 'ImportDefaultSpecifier' && node.type !== 'ImportSpecifier') return false
  return readPlainName(node.local) === 'process' && !/^(?:node:)?process$/.test(readPlainName(parent?.source))
}

function isMember({ type }: SyntaxNode): boolean {
  return type === 'MemberExpression' || type === 'OptionalMemberExpression'
}

function getName({ property, computed }: SyntaxNode): string | null {
  if (computed !== true) return readPlainName(property)
  return isNode(property) && typeof property.value === 'string' ? property.value : null
}
