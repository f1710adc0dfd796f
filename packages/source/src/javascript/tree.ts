import type { SyntaxNode } from './syntax-node.ts'

/**
 * Visits every node of a tree.
 *
 * @param above the nodes above the first one, the nearest last
 * @param visitor is given each node and those above it; `false` leaves out what is below
 */
export function visit(node: SyntaxNode, above: SyntaxNode[], visitor: Visitor): void {
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

function visitMembers(node: SyntaxNode, members: object, above: SyntaxNode[], visitor: Visitor): void {
  for (const key in members) {
    const member = node[key]
    if (typeof member !== 'object' || member === null || key === 'loc' || key === 'extra') continue
    if (Array.isArray(member)) visitAll(member, above, visitor)
    else if (isNode(member)) visit(member, above, visitor)
  }
}

type Visitor = (node: SyntaxNode, above: readonly SyntaxNode[]) => unknown

function visitAll(nodes: readonly unknown[], above: SyntaxNode[], visitor: Visitor): void {
  for (const each of nodes) if (isNode(each)) visit(each, above, visitor)
}

/** The text of fixed texts joined by `+`; `null` for anything else. */
export function joinText(node: SyntaxNode): string | null {
  if (node.type === 'StringLiteral') return String(node.value)
  if (node.type === 'ParenthesizedExpression') return joinText(node.expression as SyntaxNode)
  if (node.type !== 'BinaryExpression' || node.operator !== '+') return null
  const left = joinText(node.left as SyntaxNode)
  const right = left === null ? null : joinText(node.right as SyntaxNode)
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
