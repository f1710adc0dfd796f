import { readCall } from './called-reads.ts'
import { findEnvironment } from './environments.ts'
import { findListedReads } from './listed-reads.ts'
import type { SyntaxNode } from './parser.ts'
import { readPlainName, visit } from './tree.ts'
import { findFixedValue, findUse, mayBeMissing, type ReadNode, throwsUnless } from './use.ts'

/**
 * The reads that a node is: `process.env.NAME`, `process.env['NAME']`, `import.meta.env.NAME`, taking names out of either,
 * `requireEnv('NAME')`, and `process.env[name]` for each name of a list.
 */
export function findReads(node: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  switch (node.type) {
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return findMemberReads(node, above)
    case 'VariableDeclarator':
      return findDestructuredReads(node)
    case 'CallExpression':
    case 'NewExpression':
      return readCall(node, above)
    default:
      return []
  }
}

function findMemberReads(node: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  const source = findEnvironment(node.object)
  const parent = above.at(-1)
  // A method of the environment itself.
  if (source === null || parent?.callee === node) return []
  const property = node.property as SyntaxNode
  const built = source === 'built'
  const use = findUse(node, above)
  if (node.computed && property.type === 'Identifier')
    return findListedReads(String(property.name), above).map(({ name, at, isTested }) => {
      return { ...use, needed: use.needed || isTested, fallback: null, name, at, keptAs: null, built }
    })
  const name = node.computed ? property.value : property.name
  if (typeof name !== 'string') return []
  const keptAs = parent?.type === 'VariableDeclarator' && parent.init === node ? readPlainName(parent.id) : ''
  return [{ name, at: node, ...use, keptAs: keptAs === '' ? null : keptAs, built }]
}

function findDestructuredReads({ id, init }: SyntaxNode): readonly ReadNode[] {
  const pattern = id as SyntaxNode
  const source = findEnvironment(init)
  if (pattern.type !== 'ObjectPattern' || source === null) return []
  return (pattern.properties as SyntaxNode[]).flatMap((property): ReadNode[] => {
    const name = readPlainName(property.key)
    if (name === '') return []
    const value = property.value as SyntaxNode | undefined
    const fallback = value?.type === 'AssignmentPattern' ? findFixedValue(value.right as SyntaxNode) : null
    // With a default, there is no name at this place.
    const keptAs = readPlainName(value)
    const use = { needed: false, fallback, takenAs: null }
    return [{ name, at: property, ...use, keptAs: keptAs === '' ? null : keptAs, built: source === 'built' }]
  })
}

/** The names that a program only ever tests, and goes on without. */
export function findOnlyTested(tree: SyntaxNode, names: ReadonlySet<string>): ReadonlySet<string> {
  const tested = new Set<string>()
  const used = new Set<string>()
  if (names.size > 0)
    visit(tree, [], (node, above) => {
      if (node.type !== 'Identifier' || !names.has(String(node.name))) return
      const parent = above.at(-1)
      if (parent === undefined || isDeclared(node, parent, above.at(-2))) return
      const isTested = mayBeMissing(node, parent) && !throwsUnless(node, above)
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
