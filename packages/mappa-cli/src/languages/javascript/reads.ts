import { isNode, plainName, visit } from '../../../../mappa/src/javascript/tree.ts'
import type { SyntaxNode } from './parser.ts'
import { fixedValue, mayBeMissing, throwsWithout, type Use, useOf } from './use.ts'

/** A read of a variable in a syntax tree. */
export interface ReadNode extends Use {
  readonly name: string
  readonly at: SyntaxNode
  /** The name that the value is kept under, where what is done with that name decides whether it is needed. */
  readonly keptAs: string | null
  readonly built: boolean
}

/** `process.env.NAME`, `process.env['NAME']`, `import.meta.env.NAME`, and taking names out of either. */
export function readsIn(node: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  if (node.type === 'MemberExpression' || node.type === 'OptionalMemberExpression') return memberRead(node, above)
  return node.type === 'VariableDeclarator' ? destructuredReads(node) : []
}

function memberRead(node: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  const property = node.property as SyntaxNode
  const written = property.type === 'StringLiteral' ? property.value : null
  const name = node.computed ? written : property.name
  const source = typeof name === 'string' ? environmentIn(node.object) : null
  if (typeof name !== 'string' || source === null) return []
  const parent = above.at(-1)
  const keptAs = parent?.type === 'VariableDeclarator' && parent.init === node ? plainName(parent.id) : ''
  return [{ name, at: node, ...useOf(node, above), keptAs: keptAs === '' ? null : keptAs, built: source === 'built' }]
}

function destructuredReads({ id, init }: SyntaxNode): readonly ReadNode[] {
  const pattern = id as SyntaxNode
  const source = environmentIn(init)
  if (pattern.type !== 'ObjectPattern' || source === null) return []
  return (pattern.properties as SyntaxNode[]).flatMap((property): ReadNode[] => {
    const name = plainName(property.key)
    if (name === '') return []
    const value = property.value as SyntaxNode | undefined
    const fallback = value?.type === 'AssignmentPattern' ? fixedValue(value.right as SyntaxNode) : null
    // With a default, there is no name at this place.
    const keptAs = plainName(value)
    const use = { needed: false, fallback, takenAs: null }
    return [{ name, at: property, ...use, keptAs: keptAs === '' ? null : keptAs, built: source === 'built' }]
  })
}

/** The names that a program only ever tests, and goes on without. */
export function onlyTested(tree: SyntaxNode, names: ReadonlySet<string>): ReadonlySet<string> {
  const tested = new Set<string>()
  const used = new Set<string>()
  if (names.size > 0)
    visit(tree, [], (node, above) => {
      if (node.type !== 'Identifier' || !names.has(String(node.name))) return
      const parent = above.at(-1)
      if (parent === undefined || isDeclared(node, parent, above.at(-2))) return
      const isTested = mayBeMissing(node, parent) && !throwsWithout(node, above)
      ;(isTested ? tested : used).add(String(node.name))
    })
  return new Set([...tested].filter((name) => !used.has(name)))
}

/** True for a name that is given to something here: a variable, a key, a member. */
function isDeclared(node: SyntaxNode, parent: SyntaxNode, above: SyntaxNode | undefined): boolean {
  if (parent.type === 'VariableDeclarator') return parent.id === node
  if (parent.type === 'ObjectProperty')
    return above?.type === 'ObjectPattern' || (parent.key === node && parent.value !== node && !parent.computed)
  const isMember = parent.type === 'MemberExpression' || parent.type === 'OptionalMemberExpression'
  return isMember && parent.property === node && parent.computed !== true
}

/** Which environment a node is, if any: that of the process, or the one that a bundler builds in. */
function environmentIn(node: unknown): 'process' | 'built' | null {
  if (!isNode(node) || (node.type !== 'MemberExpression' && node.type !== 'OptionalMemberExpression')) return null
  const object = node.object as SyntaxNode
  if (plainName(node.property) !== 'env') return null
  if (object.type === 'MetaProperty') return 'built'
  const isProcess =
    object.name === 'process' ||
    (object.type === 'MemberExpression' && (object.property as SyntaxNode).name === 'process')
  return isProcess ? 'process' : null
}
