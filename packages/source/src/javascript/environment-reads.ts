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
  /** What `process` is called as well. */
  const aliases = new Set<string>()
  visit<SyntaxNode>(program, (node, above) => {
    ownProcess ||= declaresProcess(node, above.at(-1))
    const alias = nameProcess(node, above.at(-1))
    if (alias !== null) aliases.add(alias)
    const taken = takeEnvironment(node, above.at(-1), aliases)
    if (taken !== null) reads.push({ object: taken, name: null, node, destructured: false })
    const object = getEnvironment(node, aliases)
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
function getEnvironment(node: SyntaxNode, aliases: ReadonlySet<string>): EnvironmentObject | null {
  if (!isMember(node) || getName(node) !== 'env') return null
  return getOwner(node.object as SyntaxNode, aliases)
}

/** The environment that an object has as its member `env`. */
function getOwner(node: SyntaxNode, aliases: ReadonlySet<string>): EnvironmentObject | null {
  const object = unwrap(node)
  if (object.type === 'MetaProperty') return readPlainName(object.property) === 'meta' ? 'import.meta.env' : null
  const isAlias = object.type === 'Identifier' && aliases.has(readPlainName(object))
  return isAlias || isProcess(object) ? 'process.env' : null
}

/** An expression without what stands around it and does not change it. */
function unwrap(node: SyntaxNode): SyntaxNode {
  return WRAPPERS.has(node.type) && isNode(node.expression) ? unwrap(node.expression as SyntaxNode) : node
}

function isProcess(node: SyntaxNode): boolean {
  if (isMember(node)) return getName(node) === 'process' && GLOBALS.has(readPlainName(node.object))
  return node.type === 'Identifier' && node.name === 'process'
}

const GLOBALS: ReadonlySet<string> = new Set(['globalThis', 'window', 'self', 'global'])
const PROCESS_MODULE = /^(?:node:)?process$/

/** The name that `process` gets: by `const q = process`, or by an import. */
function nameProcess(node: SyntaxNode, parent: SyntaxNode | undefined): string | null {
  const { type, id, init, local } = node
  if (type === 'ImportDefaultSpecifier' || type === 'ImportNamespaceSpecifier')
    return PROCESS_MODULE.test(readPlainName(parent?.source)) ? readPlainName(local) : null
  if (type !== 'VariableDeclarator' || !isNode(init) || !isNode(id)) return null
  return id.type === 'Identifier' && isProcess(unwrap(init as SyntaxNode)) ? readPlainName(id) : null
}

/** The environment that is taken out of its object whole: `{ env } = process`, `import { env } from 'node:process'`. */
function takeEnvironment(
  node: SyntaxNode,
  parent: SyntaxNode | undefined,
  aliases: ReadonlySet<string>,
): EnvironmentObject | null {
  const { type, id, init, imported } = node
  if (type === 'ImportSpecifier')
    return PROCESS_MODULE.test(readPlainName(parent?.source)) && readPlainName(imported) === 'env'
      ? 'process.env'
      : null
  if (type !== 'VariableDeclarator' || !isNode(init)) return null
  const { properties } = id as { properties?: readonly SyntaxNode[] }
  const isTaken = properties?.some(({ key }) => readPlainName(key) === 'env') === true
  return isTaken ? getOwner(init as SyntaxNode, aliases) : null
}

/** True where the name `process` stands for something of the module's own. */
function declaresProcess(node: SyntaxNode, parent: SyntaxNode | undefined): boolean {
  if (node.type === 'VariableDeclarator') return readPlainName(node.id) === 'process'
  if (node.type !== 'ImportDefaultSpecifier' && node.type !== 'ImportSpecifier') return false
  return readPlainName(node.local) === 'process' && !PROCESS_MODULE.test(readPlainName(parent?.source))
}

function isMember({ type }: SyntaxNode): boolean {
  return type === 'MemberExpression' || type === 'OptionalMemberExpression'
}

function getName({ property, computed }: SyntaxNode): string | null {
  if (computed !== true) return readPlainName(property)
  return isNode(property) && typeof property.value === 'string' ? property.value : null
}
