import type {
  BinaryExpression,
  MemberExpression,
  Node,
  OptionalMemberExpression,
  VariableDeclarator,
} from '@babel/types'
import { readCall } from './called-reads.ts'
import { isCall } from './calls.ts'
import { findEnvironment } from './environments.ts'
import { findListedReads } from './listed-reads.ts'
import { findPresence, throwsUnless } from './presence.ts'
import { readPlainName, visit } from './tree.ts'
import { findFixedValue, findUse, mayBeMissing, type ReadNode } from './use.ts'

/**
 * The reads that a node is: `process.env.NAME`, `process.env['NAME']`, `import.meta.env.NAME`, taking names out of either,
 * `requireEnv('NAME')`, and `process.env[name]` for each name of a list.
 */
export function findReads(node: Node, above: readonly Node[]): readonly ReadNode[] {
  switch (node.type) {
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return findMemberReads(node, above)
    case 'VariableDeclarator':
      return findDestructuredReads(node)
    case 'CallExpression':
    case 'NewExpression':
      return readCall(node, above)
    case 'BinaryExpression':
      return findMembershipTests(node, above)
    default:
      return []
  }
}

function findMemberReads(
  node: MemberExpression | OptionalMemberExpression,
  above: readonly Node[],
): readonly ReadNode[] {
  const source = findEnvironment(node.object)
  const parent = above.at(-1)
  // A method of the environment itself.
  if (source === null || (parent !== undefined && isCall(parent) && parent.callee === node)) return []
  const { property } = node
  const built = source === 'built'
  const use = findUse(node, above)
  if (node.computed && property.type === 'Identifier')
    return findListedReads(property.name, above).map(({ name, at, isTested }) => {
      return { ...use, needed: use.needed || isTested, fallback: null, name, at, keptAs: null, built }
    })
  const isWrittenOut = property.type === (node.computed ? 'StringLiteral' : 'Identifier')
  if (!isWrittenOut) return []
  const name = readPlainName(property)
  const keptAs = parent?.type === 'VariableDeclarator' && parent.init === node ? readPlainName(parent.id) : ''
  return [{ name, at: node, ...use, keptAs: keptAs === '' ? null : keptAs, built }]
}

/** `'DOME_KEY' in process.env` */
function findMembershipTests(node: BinaryExpression, above: readonly Node[]): readonly ReadNode[] {
  const { operator, left, right } = node
  const source = operator === 'in' ? findEnvironment(right) : null
  if (source === null || left.type !== 'StringLiteral') return []
  const presence = findPresence(node, above)
  const use = { needed: presence === 'demanded', presence, fallback: null, takenAs: null }
  return [{ name: left.value, at: left, ...use, keptAs: null, built: source === 'built' }]
}

function findDestructuredReads({ id, init }: VariableDeclarator): readonly ReadNode[] {
  const source = findEnvironment(init)
  if (id.type !== 'ObjectPattern' || source === null) return []
  return id.properties.flatMap((property): ReadNode[] => {
    if (property.type !== 'ObjectProperty') return []
    const name = readPlainName(property.key)
    if (name === '') return []
    const { value } = property
    const fallback = value.type === 'AssignmentPattern' ? findFixedValue(value.right) : null
    // With a default, there is no name at this place.
    const keptAs = readPlainName(value)
    const use = { needed: false, fallback, takenAs: null, presence: null }
    return [{ name, at: property, ...use, keptAs: keptAs === '' ? null : keptAs, built: source === 'built' }]
  })
}

/** The names that a program only ever tests, and goes on without. */
export function findOnlyTested(tree: Node, names: ReadonlySet<string>): ReadonlySet<string> {
  const tested = new Set<string>()
  const used = new Set<string>()
  if (names.size > 0)
    visit(tree, (node, above) => {
      if (node.type !== 'Identifier' || !names.has(node.name)) return
      const parent = above.at(-1)
      if (parent === undefined || isDeclared(node, parent, above.at(-2))) return
      const isTested = mayBeMissing(node, parent) && !throwsUnless(node, above)
      ;(isTested ? tested : used).add(node.name)
    })
  return new Set([...tested].filter((name) => !used.has(name)))
}

/** True for a name that is given to something here: a variable, a key, a member. */
function isDeclared(node: Node, parent: Node, above: Node | undefined): boolean {
  if (parent.type === 'VariableDeclarator') return parent.id === node
  if (parent.type === 'ObjectProperty')
    return above?.type === 'ObjectPattern' || (parent.key === node && parent.value !== node && !parent.computed)
  const isMember = parent.type === 'MemberExpression' || parent.type === 'OptionalMemberExpression'
  return isMember && parent.property === node && parent.computed !== true
}
