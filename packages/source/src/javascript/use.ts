import type { BinaryExpression, Node } from '@babel/types'
import type { TakenAs } from '../source.ts'
import { readPlainName } from './tree.ts'

/** A value that is written out. */
export interface FixedValue {
  readonly node: Node
  readonly value: string
  readonly form: 'text' | 'number'
}

/** What a program does with a variable where it reads it. */
export interface Use {
  /** True where it can't do without a value. */
  readonly needed: boolean
  /** The fixed value that it takes where there is none. */
  readonly fallback: FixedValue | null
  /** What it makes of the text. */
  readonly takenAs: TakenAs | null
}

/** A read of a variable in a syntax tree. */
export interface ReadNode extends Use {
  readonly name: string
  readonly at: Node
  /** The name that the value is kept under, where what is done with that name decides whether it is needed. */
  readonly keptAs: string | null
  readonly built: boolean
}

/** Functions that make a number of a text. */
const NUMBERS: Readonly<Record<string, TakenAs>> = { parseInt: 'integer', parseFloat: 'number', Number: 'number' }
/** Nodes that leave a value what it is. */
const SAME = new Set(['TSNonNullExpression', 'TSAsExpression', 'TSSatisfiesExpression', 'ParenthesizedExpression'])
/** What ends a program, or what is about to happen, by its name. */
const GIVES_UP = /throw|fail|exit|abort|panic|missing|required|assert|invariant|die|fatal/i

/** The value of a node that is written out: a text, a template without variables, a number, or a boolean. */
export function findFixedValue(node: Node): FixedValue | null {
  switch (node.type) {
    case 'StringLiteral':
      return { node, value: node.value, form: 'text' }
    case 'NumericLiteral':
    case 'BooleanLiteral':
      return { node, value: String(node.value), form: 'number' }
    case 'TemplateLiteral': {
      const [only, ...others] = node.quasis
      return others.length > 0 || only?.value.cooked == null ? null : { node, value: only.value.cooked, form: 'text' }
    }
    default:
      return null
  }
}

/**
 * Finds out what is done with a read of a variable.
 *
 * @param read the node
 * @param above the nodes above it, the nearest last
 */
export function findUse(read: Node, above: readonly Node[]): Use {
  let node = read
  let takenAs: TakenAs | null = null
  let fallback: FixedValue | null = null
  for (let at = above.length - 1; at >= 0; at--) {
    const parent = above[at]!
    const becomes = findConversion(node, parent)
    const instead: FixedValue | null = fallback === null ? fallbackValue(node, parent) : null
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
function fallbackValue(node: Node, parent: Node): FixedValue | null {
  const isChoice = parent.type === 'LogicalExpression' && parent.left === node && parent.operator !== '&&'
  return isChoice ? findFixedValue(parent.right) : null
}

/** What a node makes of the text below it; `null` for one that does something else with it. */
function findConversion(node: Node, parent: Node): TakenAs | null {
  if (parent.type === 'UnaryExpression') return parent.operator === '+' ? 'number' : null
  if (parent.type !== 'CallExpression' || parent.arguments[0] !== node) return null
  const { callee } = parent
  const name = readPlainName(callee.type === 'MemberExpression' ? callee.property : callee)
  return Object.hasOwn(NUMBERS, name) ? NUMBERS[name]! : null
}

/** `=== 'true'`: what it is compared with. */
function findBoolean(node: Node, parent: Node): TakenAs | null {
  return parent.type === 'BinaryExpression' && isComparedWithBoolean(node, parent) ? 'boolean' : null
}

/** True for a value that is compared with the word `true` or `false`. */
function isComparedWithBoolean(node: Node, parent: BinaryExpression): boolean {
  if (!COMPARISON.test(parent.operator)) return false
  const other = parent.left === node ? parent.right : parent.left
  return other.type === 'StringLiteral' && /^(?:true|false)$/i.test(other.value)
}

const COMPARISON = /^[!=]==?$/

/** Where the way up from a read ends: in another value for it, in a question, or in what needs it. */
function findEnd(node: Node, parent: Node, above: readonly Node[], read: Node): Omit<Use, 'takenAs'> {
  if (parent.type === 'LogicalExpression' && parent.left === node && parent.operator !== '&&')
    return { needed: isNamedCall(parent.right, GIVES_UP), fallback: null }
  if (parent.type === 'ConditionalExpression' && parent.test !== node) {
    const other = parent.consequent === node ? parent.alternate : parent.consequent
    // `process.env.NIGHTS ? Number(process.env.NIGHTS) : 7`
    if (testsRead(parent.test, read)) return { needed: false, fallback: findFixedValue(other) }
  }
  return { needed: !mayBeMissing(node, parent) || throwsUnless(node, [...above, parent]), fallback: null }
}

/** True for a condition that asks whether a variable is there, whatever else it asks. */
function testsRead(test: Node, read: Node): boolean {
  if (isSameRead(test, read)) return true
  if (test.type === 'UnaryExpression') return test.operator !== 'typeof' && testsRead(test.argument, read)
  if (test.type !== 'BinaryExpression' && test.type !== 'LogicalExpression') return false
  return testsRead(test.left, read) || testsRead(test.right, read)
}

function isSameRead(node: Node, read: Node): boolean {
  if (node.type !== read.type) return false
  if (node.type === 'Identifier') return node.name === readPlainName(read)
  return getKey(node) !== null && getKey(node) === getKey(read)
}

function getKey(node: Node): string | null {
  const isMember = node.type === 'MemberExpression' || node.type === 'OptionalMemberExpression'
  return isMember ? readPlainName(node.property) : null
}

function isNamedCall(node: Node, names: RegExp): boolean {
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

/** True where the code asks whether there is a value, compares it, or has another one for it. */
export function mayBeMissing(node: Node, parent: Node | undefined): boolean {
  switch (parent?.type) {
    case 'LogicalExpression':
    case 'AssignmentExpression':
      return parent.left === node
    case 'BinaryExpression':
      return COMPARISON.test(parent.operator)
    case 'UnaryExpression':
    case 'SwitchStatement':
    case 'OptionalMemberExpression':
      return true
    case 'IfStatement':
    case 'ConditionalExpression':
    case 'WhileStatement':
      return parent.test === node
    case 'CallExpression':
      return readPlainName(parent.callee) === 'Boolean'
    default:
      return false
  }
}
