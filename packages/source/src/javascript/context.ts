import type {
  AssignmentPattern,
  BinaryExpression,
  ClassAccessorProperty,
  ClassPrivateProperty,
  ClassProperty,
  MemberExpression,
  Node,
  ObjectProperty,
  OptionalMemberExpression,
} from '@babel/types'
import { isTellingName } from '@mappa/core/credentials/words'
import { type Context, joinContext, listNames, type Step } from '../tree/step.ts'
import { type Call, isCall } from './calls.ts'
import { findEnvironment } from './environments.ts'

/**
 * Finds out what a value in a syntax tree is given to.
 *
 * @param node the value
 * @param above the nodes above it, the nearest last
 * @returns `null` where the text is no value: the name of a key or of a module
 */
export function getContext(node: Node, above: readonly Node[]): Context | null {
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

function describeStep(parent: Node, child: Node, above: readonly Node[]) {
  return parent.type === 'AssignmentPattern' ? describeDefault(parent, above) : climb(parent, child)
}

/** Functions that make what a program then works with: a pool, a client, a connection. */
const MAKERS = /^(create|connect|make|open|build|init|configure|setup|new)(?![a-z])/

/** What the members of an object belong to that is given to a class or a maker: the variable that it is kept in, or the class. */
function getGroup(call: Node, above: readonly Node[]): string | undefined {
  if (!isCall(call)) return undefined
  const callee = getName(call.callee) ?? ''
  const isClass = call.type === 'NewExpression'
  if (!isClass && !MAKERS.test(callee)) return undefined
  const holder = above.findLast(({ type }) => type !== 'AwaitExpression')
  if (holder?.type === 'VariableDeclarator') return getName(holder.id)
  if (holder?.type === 'AssignmentExpression') return getName(holder.left)
  if (holder?.type === 'ObjectProperty' || holder?.type === 'ClassProperty') return getName(holder.key)
  return isClass ? callee : undefined
}

/** What a node says about a value below it; `null` where it says nothing, and those above it may. */
type Said = Step | null | 'no value' | 'stop'

/** A rule for each type of node. */
type Rules = { readonly [T in Node['type']]?: (parent: Extract<Node, { type: T }>, child: Node) => Said }

const describeDeclared = ({ id }: { readonly id?: Node | null }): Said => ({ name: getName(id), last: true })
const describeMethod = ({ key }: { readonly key: Node }): Said => ({ name: getName(key), last: true })
const saysNothing = (): Said => null

type Property = ObjectProperty | ClassProperty | ClassAccessorProperty | ClassPrivateProperty

function describeProperty(parent: Property, child: Node): Said {
  if (parent.key === child && !('computed' in parent && parent.computed)) return 'no value'
  return parent.value === child ? { name: getName(parent.key) } : 'stop'
}

function describeMember(parent: MemberExpression | OptionalMemberExpression, child: Node): Said {
  if (parent.property === child) return 'no value'
  return parent.computed || KEEPERS.has(getName(parent.property) ?? '') ? null : 'stop'
}

/** What each type of node says about its child; where one is not listed, nothing further up counts. */
const RULES: Rules = {
  VariableDeclarator: describeDeclared,
  AssignmentExpression: ({ left, right }, child) => (right === child ? { name: getName(left), last: true } : 'stop'),
  ObjectProperty: describeProperty,
  ClassProperty: describeProperty,
  ClassPrivateProperty: describeProperty,
  ClassAccessorProperty: describeProperty,
  JSXAttribute: ({ name }) => ({ name: getName(name), last: true }),
  CallExpression: describeCall,
  OptionalCallExpression: describeCall,
  NewExpression: describeCall,
  MemberExpression: describeMember,
  OptionalMemberExpression: describeMember,
  BinaryExpression: describeBinary,
  // `process.env.DOME_KEY || '...'`: the variable that the value stands in for names it best.
  LogicalExpression: ({ left, right }, child) => (right === child ? describeVariable(left) : null),
  BlockStatement: (_parent, child) => (child.type === 'ReturnStatement' ? null : 'stop'),
  ReturnStatement: saysNothing,
  ArrowFunctionExpression: saysNothing,
  ConditionalExpression: () => ({ isBranch: true }),
  TemplateLiteral: saysNothing,
  ArrayExpression: saysNothing,
  ObjectExpression: saysNothing,
  ClassBody: saysNothing,
  AwaitExpression: saysNothing,
  ParenthesizedExpression: saysNothing,
  JSXExpressionContainer: saysNothing,
  TSAsExpression: saysNothing,
  TSSatisfiesExpression: saysNothing,
  TSNonNullExpression: saysNothing,
  SpreadElement: saysNothing,
  TSEnumMember: ({ id }, child) => (id === child ? 'no value' : { name: getName(id) }),
  TSEnumBody: saysNothing,
  TSEnumDeclaration: describeDeclared,
  FunctionDeclaration: describeDeclared,
  ClassMethod: describeMethod,
  ObjectMethod: describeMethod,
}

function climb(parent: Node, child: Node): Said {
  // Each rule takes the type of node that it stands under.
  const rule = RULES[parent.type] as ((parent: Node, child: Node) => Said) | undefined
  return rule === undefined ? 'stop' : rule(parent, child)
}

/** What is said of the default of a pattern: by what it is taken from, and by the name that it gets. */
function describeDefault(pattern: AssignmentPattern, above: readonly Node[]): Step {
  const own = getName(pattern.left)
  const [declaration, , property] = above.slice(-3)
  if (property?.type !== 'ObjectProperty' || property.value !== pattern) return { name: own, last: true }
  const key = getName(property.key)
  const isVariable = declaration?.type === 'VariableDeclarator' && getName(declaration.init) === 'env'
  return { name: key ?? own, variable: isVariable ? key : undefined, last: true }
}

function describeCall(call: Call, child: Node): Step | null | 'no value' {
  // A method of the value itself.
  if (call.callee === child) return null
  const callee = getName(call.callee)
  if (callee === 'require' || call.callee.type === 'Import') return 'no value'
  const position = (call.arguments as readonly Node[]).indexOf(child)
  const before = call.arguments[position - 1]
  // `headers.set('authorization', '...')`: the text before says what it is.
  const text = before?.type === 'StringLiteral' && NAMERS.test(callee ?? '') ? before.value : ''
  const named = isTellingName(text) ? text : undefined
  return {
    name: named,
    callee,
    argument: position,
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

function describeBinary(parent: BinaryExpression, child: Node): Step | null | 'stop' {
  if (parent.operator === '+') return null
  if (parent.operator !== '===' && parent.operator !== '==' && parent.operator !== '!==' && parent.operator !== '!=')
    return 'stop'
  return { name: getName(parent.left === child ? parent.right : parent.left), last: true }
}

function describeVariable(left: Node): Step {
  const variable = environmentName(left)
  return { name: variable, variable }
}

/** `NAME` of `process.env.NAME` or `import.meta.env.NAME`. */
export function environmentName(node: Node | null | undefined): string | undefined {
  if (node?.type !== 'MemberExpression' && node?.type !== 'OptionalMemberExpression') return undefined
  const isEnvironment = getName(node.object) === 'env' || findEnvironment(node.object) !== null
  return isEnvironment ? getName(node.property) : undefined
}

/** The last name of an expression: `c` of `a.b.c`. */
function getName(node: Node | null | undefined): string | undefined {
  switch (node?.type) {
    case 'Identifier':
    case 'JSXIdentifier':
      return node.name
    case 'StringLiteral':
      return node.value
    case 'PrivateName':
      return getName(node.id)
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return getName(node.property)
    case 'JSXNamespacedName':
      return getName(node.name)
    case 'CallExpression':
      return getName(node.callee)
    default:
      return undefined
  }
}
