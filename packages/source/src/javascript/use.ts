import type { TakenAs } from '../source.ts'
import type { SyntaxNode } from './parser.ts'

/** What a program does with a variable where it reads it. */
export interface Use {
  /** True where it can't do without a value. */
  readonly needed: boolean
  /** The fixed value that it takes where there is none. */
  readonly fallback: SyntaxNode | null
  /** What it makes of the text. */
  readonly takenAs: TakenAs | null
}

/** A read of a variable in a syntax tree. */
export interface ReadNode extends Use {
  readonly name: string
  readonly at: SyntaxNode
  /** The name that the value is kept under, where what is done with that name decides whether it is needed. */
  readonly keptAs: string | null
  readonly built: boolean
}

/** Functions that make a number of a text. */
const NUMBERS: Readonly<Record<string, TakenAs>> = { parseInt: 'integer', parseFloat: 'number', Number: 'number' }
const FIXED = new Set(['StringLiteral', 'NumericLiteral', 'BooleanLiteral'])
/** Nodes that leave a value what it is. */
const SAME = new Set(['TSNonNullExpression', 'TSAsExpression', 'TSSatisfiesExpression', 'ParenthesizedExpression'])
/** What ends a program, or what is about to happen, by its name. */
const GIVES_UP = /throw|fail|exit|abort|panic|missing|required|assert|invariant|die|fatal/i

/** The node itself if it is a fixed value. */
export function findFixedValue(node: SyntaxNode): SyntaxNode | null {
  return FIXED.has(node.type) ? node : null
}

/**
 * Finds out what is done with a read of a variable.
 *
 * @param read the node
 * @param above the nodes above it, the nearest last
 */
export function findUse(read: SyntaxNode, above: readonly SyntaxNode[]): Use {
  let node = read
  let takenAs: TakenAs | null = null
  let fallback: SyntaxNode | null = null
  for (let at = above.length - 1; at >= 0; at--) {
    const parent = above[at]!
    const becomes = findConversion(node, parent)
    const instead: SyntaxNode | null = fallback === null ? fallbackValue(node, parent) : null
    if (becomes === null && instead === null && !SAME.has(parent.type)) {
      const end = fallback === null ? findEnd(node, parent, above.slice(0, at), read) : { needed: false, fallback }
      return { ...end, takenAs: takenAs ?? findBoolean(node, parent) }
    }
    takenAs = becomes ?? takenAs
    fallback = instead ?? fallback
    node = parent
  }
  return { needed: fallback === null, fallback, takenAs }
}

/** The fixed value that stands in for one that is missing: `process.env.NIGHTS || 7`. */
function fallbackValue(node: SyntaxNode, parent: SyntaxNode): SyntaxNode | null {
  const isChoice = parent.type === 'LogicalExpression' && parent.left === node && parent.operator !== '&&'
  return isChoice ? findFixedValue(parent.right as SyntaxNode) : null
}

/** What a node makes of the text below it; `null` for one that does something else with it. */
function findConversion(node: SyntaxNode, parent: SyntaxNode): TakenAs | null {
  if (parent.type === 'UnaryExpression') return parent.operator === '+' ? 'number' : null
  if (parent.type !== 'CallExpression' || (parent.arguments as SyntaxNode[])[0] !== node) return null
  const callee = parent.callee as SyntaxNode
  const name = callee.type === 'MemberExpression' ? (callee.property as SyntaxNode).name : callee.name
  return Object.hasOwn(NUMBERS, String(name)) ? NUMBERS[String(name)]! : null
}

/** `=== 'true'`: what it is compared with. */
function findBoolean(node: SyntaxNode, parent: SyntaxNode): TakenAs | null {
  return parent.type === 'BinaryExpression' && findSibling(node, parent) !== null ? 'boolean' : null
}

/** The word `true` or `false` that a value is compared with; `null` for any other comparison. */
function findSibling(node: SyntaxNode, parent: SyntaxNode): SyntaxNode | null {
  if (!/^[!=]==?$/.test(String(parent.operator))) return null
  const other = (parent.left === node ? parent.right : parent.left) as SyntaxNode
  return other.type === 'StringLiteral' && /^(?:true|false)$/i.test(String(other.value)) ? other : null
}

/** Where the way up from a read ends: in another value for it, in a question, or in what needs it. */
function findEnd(
  node: SyntaxNode,
  parent: SyntaxNode,
  above: readonly SyntaxNode[],
  read: SyntaxNode,
): Omit<Use, 'takenAs'> {
  if (parent.type === 'LogicalExpression' && parent.left === node && parent.operator !== '&&')
    return { needed: isNamedCall(parent.right as SyntaxNode, GIVES_UP), fallback: null }
  if (parent.type === 'ConditionalExpression' && parent.test !== node) {
    const other = (parent.consequent === node ? parent.alternate : parent.consequent) as SyntaxNode
    // `process.env.NIGHTS ? Number(process.env.NIGHTS) : 7`
    if (testsRead(parent.test as SyntaxNode, read)) return { needed: false, fallback: findFixedValue(other) }
  }
  return { needed: !mayBeMissing(node, parent) || throwsUnless(node, [...above, parent]), fallback: null }
}

/** True for a condition that asks whether a variable is there, whatever else it asks. */
function testsRead(test: SyntaxNode, read: SyntaxNode): boolean {
  if (isSameRead(test, read)) return true
  if (test.type === 'UnaryExpression') return test.operator !== 'typeof' && testsRead(test.argument as SyntaxNode, read)
  if (test.type !== 'BinaryExpression' && test.type !== 'LogicalExpression') return false
  return testsRead(test.left as SyntaxNode, read) || testsRead(test.right as SyntaxNode, read)
}

function isSameRead(node: SyntaxNode, read: SyntaxNode): boolean {
  if (node.type !== read.type) return false
  if (node.type === 'Identifier') return node.name === read.name
  return getKey(node) !== null && getKey(node) === getKey(read)
}

function getKey(node: SyntaxNode): string | null {
  if (!/MemberExpression$/.test(node.type)) return null
  const property = node.property as SyntaxNode
  return String(property.name ?? property.value ?? '')
}

function isNamedCall(node: SyntaxNode, names: RegExp): boolean {
  if (node.type === 'ThrowStatement') return true
  if (node.type !== 'CallExpression' && node.type !== 'AwaitExpression') return false
  const callee = (node.callee ?? {}) as Partial<SyntaxNode>
  const property = callee.property as SyntaxNode | undefined
  return names.test(String(property?.name ?? callee.name ?? ''))
}

/**
 * True where the code goes no further without the value: `if (!process.env.DOME_KEY) throw ...`, or `process.exit(1)`.
 *
 * @param node the value that is asked for
 * @param above the nodes above it, the nearest last
 */
export function throwsUnless(node: SyntaxNode, above: readonly SyntaxNode[]): boolean {
  let child = node
  let isAbsent = false
  for (let at = above.length - 1; at >= 0; at--) {
    const parent = above[at]!
    if (parent.type === 'IfStatement')
      return parent.test === child && isAbsent && givesUp(parent.consequent as SyntaxNode)
    if (parent.type === 'UnaryExpression' && parent.operator === '!') isAbsent = !isAbsent
    else if (parent.type === 'BinaryExpression' && isNothing(child, parent))
      isAbsent = /^==/.test(String(parent.operator))
    else if (parent.type !== 'LogicalExpression' || parent.operator !== '||') return false
    child = parent
  }
  return false
}

/** True for a comparison with `undefined`, `null` or an empty text. */
function isNothing(node: SyntaxNode, parent: SyntaxNode): boolean {
  const other = (parent.left === node ? parent.right : parent.left) as SyntaxNode
  return other.type === 'NullLiteral' || other.name === 'undefined' || other.value === ''
}

/** True for a branch that ends in throwing, or in ending the process. */
function givesUp(branch: SyntaxNode): boolean {
  const statements = branch.type === 'BlockStatement' ? (branch.body as SyntaxNode[]) : [branch]
  return statements.some(
    (each) =>
      each.type === 'ThrowStatement' ||
      (each.type === 'ExpressionStatement' &&
        isNamedCall(each.expression as SyntaxNode, /^(?:exit|abort|fail|die|fatal|panic)$/i)),
  )
}

/** True where the code asks whether there is a value, compares it, or has another one for it. */
export function mayBeMissing(node: SyntaxNode, parent: SyntaxNode | undefined): boolean {
  switch (parent?.type) {
    case 'LogicalExpression':
    case 'AssignmentExpression':
      return parent.left === node
    case 'BinaryExpression':
      return /^[!=]==?$/.test(String(parent.operator))
    case 'UnaryExpression':
    case 'SwitchStatement':
    case 'OptionalMemberExpression':
      return true
    case 'IfStatement':
    case 'ConditionalExpression':
    case 'WhileStatement':
      return parent.test === node
    case 'CallExpression':
      return (parent.callee as SyntaxNode).name === 'Boolean'
    default:
      return false
  }
}
