import { isTellingName } from '@mappa/core/credentials/words'
import { type Context, joinContext, listNames, type Step } from '../tree/step.ts'
import { findEnvironment } from './environments.ts'
import type { SyntaxNode } from './parser.ts'

/**
 * Finds out what a value in a syntax tree is given to.
 *
 * @param node the value
 * @param above the nodes above it, the nearest last
 * @returns `null` where the text is no value: the name of a key or of a module
 */
export function getContext(node: SyntaxNode, above: readonly SyntaxNode[]): Context | null {
  const steps: Step[] = []
  for (let at = above.length - 1; at >= 0; at--) {
    const step = describeStep(above[at]!, above[at + 1] ?? node, above.slice(0, at))
    if (step === 'no value') return null
    if (step === 'stop') break
    if (step !== null) steps.unshift(step)
    if (step?.last !== true) continue
    const names = listNames(steps)
    const group = names.length > 0 ? getGroup(above[at]!, above.slice(0, at)) : undefined
    return joinContext(steps, group === undefined ? names : [group, ...names])
  }
  return joinContext(steps, listNames(steps))
}

function describeStep(parent: SyntaxNode, child: SyntaxNode, above: readonly SyntaxNode[]) {
  return parent.type === 'AssignmentPattern' ? describeDefault(parent, above) : climb(parent, child)
}

/** Functions that make what a program then works with: a pool, a client, a connection. */
const MAKERS = /^(create|connect|make|open|build|init|configure|setup|new)(?![a-z])/

/** What the members of an object belong to that is given to a class or a maker: the variable that it is kept in, or the class. */
function getGroup(call: SyntaxNode, above: readonly SyntaxNode[]): string | undefined {
  const callee = getName(call.callee) ?? ''
  const isClass = call.type === 'NewExpression'
  if (!isClass && !(call.type.endsWith('CallExpression') && MAKERS.test(callee))) return undefined
  const holder = above.findLast(({ type }) => type !== 'AwaitExpression')
  if (holder?.type === 'VariableDeclarator') return getName(holder.id)
  if (holder?.type === 'AssignmentExpression') return getName(holder.left)
  if (holder?.type === 'ObjectProperty' || holder?.type === 'ClassProperty') return getName(holder.key)
  return isClass ? callee : undefined
}

/** What one node says about a value below it; `null` where it says nothing and those above it may. */
type StepRule = (parent: SyntaxNode, child: SyntaxNode) => Step | null | 'no value' | 'stop'

const describeProperty: StepRule = (parent, child) => {
  if (parent.key === child && !parent.computed) return 'no value'
  return parent.value === child ? { name: getName(parent.key) } : 'stop'
}

const describeMember: StepRule = (parent, child) => {
  if (parent.property === child) return 'no value'
  return parent.computed || KEEPERS.has(getName(parent.property) ?? '') ? null : 'stop'
}

const namedStep: StepRule = ({ id, key }) => ({ name: getName(id ?? key), last: true })
const nothing: StepRule = () => null
const call: StepRule = (parent, child) => callStep(parent, child)

/** What each kind of node says; every other one ends the search. */
const STEPS: ReadonlyMap<string, StepRule> = new Map<string, StepRule>([
  ['VariableDeclarator', namedStep],
  [
    'AssignmentExpression',
    (parent, child) => (parent.right === child ? { name: getName(parent.left), last: true } : 'stop'),
  ],
  ['ObjectProperty', describeProperty],
  ['ClassProperty', describeProperty],
  ['ClassPrivateProperty', describeProperty],
  ['ClassAccessorProperty', describeProperty],
  ['JSXAttribute', ({ name }) => ({ name: getName(name), last: true })],
  ['CallExpression', call],
  ['OptionalCallExpression', call],
  ['NewExpression', call],
  ['MemberExpression', describeMember],
  ['OptionalMemberExpression', describeMember],
  ['BinaryExpression', (parent, child) => describeBinary(parent, child)],
  // `process.env.DOME_KEY || '...'`: the variable that the value stands in for names it best.
  ['LogicalExpression', (parent, child) => (parent.right === child ? describeVariable(parent.left) : null)],
  ['BlockStatement', (_parent, child) => (child.type === 'ReturnStatement' ? null : 'stop')],
  ['ReturnStatement', nothing],
  ['ArrowFunctionExpression', nothing],
  ['ConditionalExpression', () => ({ isBranch: true })],
  ['TemplateLiteral', nothing],
  ['ArrayExpression', nothing],
  ['ObjectExpression', nothing],
  ['ClassBody', nothing],
  ['AwaitExpression', nothing],
  ['ParenthesizedExpression', nothing],
  ['JSXExpressionContainer', nothing],
  ['TSAsExpression', nothing],
  ['TSSatisfiesExpression', nothing],
  ['TSNonNullExpression', nothing],
  ['SpreadElement', nothing],
  ['TSEnumMember', (parent, child) => (parent.id === child ? 'no value' : { name: getName(parent.id) })],
  ['TSEnumBody', nothing],
  ['TSEnumDeclaration', namedStep],
  ['FunctionDeclaration', namedStep],
  ['ClassMethod', namedStep],
  ['ObjectMethod', namedStep],
])

function climb(parent: SyntaxNode, child: SyntaxNode): Step | null | 'no value' | 'stop' {
  return STEPS.get(parent.type)?.(parent, child) ?? (STEPS.has(parent.type) ? null : 'stop')
}

/** What is said of the default of a pattern: by what it is taken from, and by the name that it gets. */
function describeDefault(pattern: SyntaxNode, above: readonly SyntaxNode[]): Step {
  const own = getName(pattern.left)
  const [declaration, , property] = above.slice(-3)
  if (property?.type !== 'ObjectProperty' || property.value !== pattern) return { name: own, last: true }
  const key = getName(property.key)
  const isVariable = declaration?.type === 'VariableDeclarator' && getName(declaration.init) === 'env'
  return { name: key ?? own, variable: isVariable ? key : undefined, last: true }
}

function callStep(call: SyntaxNode, child: SyntaxNode): Step | null | 'no value' {
  // A method of the value itself.
  if (call.callee === child) return null
  const callee = getName(call.callee)
  if (callee === 'require' || (call.callee as SyntaxNode).type === 'Import') return 'no value'
  const given = call.arguments as SyntaxNode[]
  const before = given[given.indexOf(child) - 1]
  // `headers.set('authorization', '...')`: the text before says what it is.
  const text = before?.type === 'StringLiteral' && NAMERS.test(callee ?? '') ? String(before.value) : ''
  const named = isTellingName(text) ? text : undefined
  return {
    name: named,
    callee,
    argument: given.indexOf(child),
    last: named !== undefined || !WRAPPERS.has(callee ?? ''),
  }
}

/** Functions whose first text says what the second one is. Any other text may be a value of its own, a password for one. */
const NAMERS =
  /^(set|get|put|add|append|define|register|provide|constant|value|option|config|env|getenv|setenv|header|item|store|default)([A-Z]\w*)?$/

/** Functions that give back what they are given, so that what is further up counts. */
const WRAPPERS = new Set([
  'String',
  'Number',
  'URL',
  'from',
  'freeze',
  'trim',
  'toString',
  'parseInt',
  'encodeURIComponent',
  'Object',
  'TextEncoder',
  'encode',
])

/** Methods of texts and lists that give back what they are called on, or a part of it. */
const KEEPERS = new Set([
  'at',
  'concat',
  'filter',
  'find',
  'flat',
  'join',
  'map',
  'normalize',
  'pop',
  'replace',
  'replaceAll',
  'reverse',
  'shift',
  'slice',
  'split',
  'substring',
  'toLowerCase',
  'toString',
  'toUpperCase',
  'trim',
  'trimEnd',
  'trimStart',
])

function describeBinary(parent: SyntaxNode, child: SyntaxNode): Step | null | 'stop' {
  if (parent.operator === '+') return null
  if (parent.operator !== '===' && parent.operator !== '==' && parent.operator !== '!==' && parent.operator !== '!=')
    return 'stop'
  return { name: getName(parent.left === child ? parent.right : parent.left), last: true }
}

function describeVariable(left: unknown): Step {
  const variable = environmentName(left)
  return { name: variable, variable }
}

/** `NAME` of `process.env.NAME` or `import.meta.env.NAME`. */
export function environmentName(node: unknown): string | undefined {
  const { type, object, property } = (node ?? {}) as SyntaxNode
  const isMember = type === 'MemberExpression' || type === 'OptionalMemberExpression'
  return isMember && (getName(object) === 'env' || findEnvironment(object) !== null) ? getName(property) : undefined
}

/** The last name of an expression: `c` of `a.b.c`. */
function getName(node: unknown): string | undefined {
  const { type, name, value, property, id, callee } = (node ?? {}) as SyntaxNode
  switch (type) {
    case 'Identifier':
    case 'JSXIdentifier':
      return String(name)
    case 'StringLiteral':
      return String(value)
    case 'PrivateName':
      return getName(id)
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return getName(property)
    case 'JSXNamespacedName':
      return getName(name)
    case 'CallExpression':
      return getName(callee)
    default:
      return undefined
  }
}
