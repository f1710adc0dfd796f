import type { BinaryExpression, Node } from '@babel/types'
import { readPlainName } from './tree.ts'

/** Whether code asks if there is a value: and goes on without, or ends there. `null` where it does not ask. */
export type Presence = 'asked' | 'demanded' | null

/** Nodes that leave a value what it is. */
export const SAME = new Set([
  'TSNonNullExpression',
  'TSAsExpression',
  'TSSatisfiesExpression',
  'ParenthesizedExpression',
])
/** What ends a program, or what is about to happen, by its name. */
export const GIVES_UP = /throw|fail|exit|abort|panic|missing|required|assert|invariant|die|fatal/i

/**
 * Finds out whether a condition asks if a value is there, and what becomes of the program if it is not.
 *
 * @param above the nodes above it, the nearest last
 */
export function findPresence(node: Node, above: readonly Node[]): Presence {
  if (throwsUnless(node, above)) return 'demanded'
  return isInCondition(node, above) ? 'asked' : null
}

function isInCondition(node: Node, above: readonly Node[]): boolean {
  let child = node
  let isGuard = false
  let at = above.length - 1
  for (; at >= 0 && isPartOfQuestion(child, above[at]!); at--) {
    const part = above[at]!
    // `process.env.DOME_KEY && open(process.env.DOME_KEY)`
    isGuard ||= part.type === 'LogicalExpression' && part.operator === '&&' && part.left === child
    child = part
  }
  const parent = above[at]
  if (parent?.type === 'IfStatement' || parent?.type === 'ConditionalExpression') return parent.test === child
  return isGuard && STATEMENTS.has(parent?.type ?? '')
}

const STATEMENTS = new Set(['ExpressionStatement', 'VariableDeclarator', 'ReturnStatement'])

function isPartOfQuestion(node: Node, parent: Node): boolean {
  if (parent.type === 'LogicalExpression') return parent.operator !== '??'
  if (parent.type === 'UnaryExpression') return parent.operator === '!'
  if (parent.type === 'BinaryExpression') return isComparedWithNothing(node, parent)
  return SAME.has(parent.type)
}

/** True for a call of a function with such a name. */
export function isNamedCall(node: Node, names: RegExp): boolean {
  if (node.type === 'AwaitExpression') return isNamedCall(node.argument, names)
  if (node.type !== 'CallExpression') return false
  const { callee } = node
  return names.test(readPlainName(callee.type === 'MemberExpression' ? callee.property : callee))
}

/**
 * True where the code goes no further without the value: `if (!process.env.DOME_KEY) throw ...`, or `process.exit(1)`.
 *
 * @param node the value that is asked for
 * @param above the nodes above it, the nearest last
 */
export function throwsUnless(node: Node, above: readonly Node[]): boolean {
  let child = node
  let isAbsent = false
  for (let at = above.length - 1; at >= 0; at--) {
    const parent = above[at]!
    if (parent.type === 'IfStatement') return parent.test === child && isAbsent && givesUp(parent.consequent)
    if (parent.type === 'UnaryExpression' && parent.operator === '!') isAbsent = !isAbsent
    else if (parent.type === 'BinaryExpression' && isComparedWithNothing(child, parent))
      isAbsent = parent.operator.startsWith('==')
    else if (parent.type !== 'LogicalExpression' || parent.operator !== '||') return false
    child = parent
  }
  return false
}

/** True for a value that is compared with `undefined`, `null` or an empty text. */
function isComparedWithNothing(node: Node, { left, right }: BinaryExpression): boolean {
  const other = left === node ? right : left
  if (other.type === 'StringLiteral') return other.value === ''
  return other.type === 'NullLiteral' || (other.type === 'Identifier' && other.name === 'undefined')
}

/** True for a branch that ends in throwing, or in ending the process. */
function givesUp(branch: Node): boolean {
  const statements = branch.type === 'BlockStatement' ? branch.body : [branch]
  return statements.some(
    (each) =>
      each.type === 'ThrowStatement' ||
      (each.type === 'ExpressionStatement' && isNamedCall(each.expression, /^(?:exit|abort|fail|die|fatal|panic)$/i)),
  )
}
