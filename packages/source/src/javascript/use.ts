import type { BinaryExpression, Node } from '@babel/types'
import type { TakenAs } from '../source.ts'
import { findPresence, GIVES_UP, isNamedCall, type Presence, SAME, throwsUnless } from './presence.ts'
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
  /** Whether it asks if there is a value: and goes on without, or ends there. `null` where it does not ask. */
  readonly presence: Presence
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
  const isOptional = above.at(-1)?.type === 'OptionalMemberExpression'
  const presence = findPresence(read, above)
  for (let at = above.length - 1; at >= 0; ) {
    const parent = above[at]!
    const step = findStep(node, parent, above[at - 1])
    const instead: FixedValue | null = fallback === null ? fallbackValue(node, parent) : null
    if (step === null && instead === null) {
      const end = fallback === null ? findEnd(node, parent, above.slice(0, at), read) : { needed: false, fallback }
      return { ...end, needed: end.needed && !isOptional, takenAs: takenAs ?? findBoolean(node, parent), presence }
    }
    takenAs = step?.takenAs ?? takenAs
    fallback = instead ?? fallback
    at -= step?.count ?? 1
    node = above[at + 1]!
  }
  return { needed: fallback === null && !isOptional, fallback, takenAs, presence }
}

/** A step up from a value to what is made of it, over so many nodes; `null` where the way ends. */
function findStep(
  node: Node,
  parent: Node,
  above: Node | undefined,
): { readonly takenAs: TakenAs | null; readonly count: number } | null {
  if (isSplit(node, parent, above)) return { takenAs: 'list', count: 2 }
  const takenAs = findConversion(node, parent)
  return takenAs !== null || SAME.has(parent.type) ? { takenAs, count: 1 } : null
}

/** `.split(',')`, right behind a value. */
function isSplit(node: Node, parent: Node, call: Node | undefined): boolean {
  if (parent.type !== 'MemberExpression' && parent.type !== 'OptionalMemberExpression') return false
  if (parent.object !== node || readPlainName(parent.property) !== 'split' || parent.computed) return false
  if (call?.type !== 'CallExpression' && call?.type !== 'OptionalCallExpression') return false
  const [separator, ...others] = call.arguments
  return (
    call.callee === parent &&
    others.length === 0 &&
    separator?.type === 'StringLiteral' &&
    separator.value.trim() === ','
  )
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
function findEnd(node: Node, parent: Node, above: readonly Node[], read: Node): Pick<Use, 'needed' | 'fallback'> {
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
