import type { Node } from '@babel/types'
import type { SyntaxNode } from './syntax-node.ts'

/** Is given each node and those above it, the nearest last; `false` leaves out what is below. */
export type Visitor<N> = (node: N, above: readonly N[]) => unknown

/**
 * Visits every node of a tree, the root first: one of Babel, unless the visitor says otherwise.
 *
 * @param visitor is given each node and those above it; `false` leaves out what is below
 */
export function visit<N = Node>(root: { readonly type: string }, visitor: Visitor<N>): void {
  // A visitor says what tree it expects; to go through one, no more is needed than that its nodes have types.
  visitNode(root as SyntaxNode, [], visitor as Visitor<unknown>)
}

function visitNode(node: SyntaxNode, above: SyntaxNode[], visitor: Visitor<unknown>): void {
  if (visitor(node, above) === false || LEAVES.has(node.type)) return
  above.push(node)
  if (node.type === 'Identifier') visitMembers(node, OF_IDENTIFIERS, above, visitor)
  else visitMembers(node, node, above, visitor)
  above.pop()
}

/** Nodes that have none below them. Every second node of a program is one of them, or an identifier. */
const LEAVES: ReadonlySet<string> = new Set([
  'StringLiteral',
  'NumericLiteral',
  'BooleanLiteral',
  'NullLiteral',
  'ThisExpression',
  'TemplateElement',
  'JSXIdentifier',
  'JSXText',
  'EmptyStatement',
])
/** What an identifier may have below it. */
const OF_IDENTIFIERS = { typeAnnotation: null, decorators: null }

function visitMembers(node: SyntaxNode, members: object, above: SyntaxNode[], visitor: Visitor<unknown>): void {
  for (const key in members) {
    const member = node[key]
    if (typeof member !== 'object' || member === null || key === 'loc' || key === 'extra') continue
    if (Array.isArray(member)) visitAll(member, above, visitor)
    else if (isNode(member)) visitNode(member, above, visitor)
  }
}

function visitAll(nodes: readonly unknown[], above: SyntaxNode[], visitor: Visitor<unknown>): void {
  for (const each of nodes) if (isNode(each)) visitNode(each, above, visitor)
}

/** The text of fixed texts joined by `+`; `null` for anything else. */
export function joinText(node: Node): string | null {
  if (node.type === 'StringLiteral') return node.value
  if (node.type === 'ParenthesizedExpression') return joinText(node.expression)
  if (node.type !== 'BinaryExpression' || node.operator !== '+') return null
  const left = joinText(node.left)
  const right = left === null ? null : joinText(node.right)
  return left === null || right === null ? null : left + right
}

/** True for a node, as against a text, a number or a position. */
export function isNode(value: unknown): value is SyntaxNode {
  return typeof value === 'object' && value !== null && typeof (value as SyntaxNode).type === 'string'
}

/** The text of an identifier or of a fixed text; empty for any other node. */
export function readPlainName(node: unknown): string {
  const { name, value } = (node ?? {}) as { name?: unknown; value?: unknown }
  if (typeof name === 'string') return name
  return typeof value === 'string' ? value : ''
}
