import { isTellingName } from '../../../../mappa/src/core/leaks/words.ts'
import type { SyntaxNode } from '../../../../mappa/src/javascript/parser.ts'

/** What a value is given to. */
export interface Context {
  readonly names: readonly string[]
  readonly callee: string | null
  /** The variable of the environment that the value stands in for. */
  readonly variable: string | null
}

/**
 * Finds out what a value in a syntax tree is given to.
 *
 * @param node the value
 * @param above the nodes above it, the nearest last
 * @returns `null` where the text is no value: the name of a key or of a module
 */
export function contextOf(node: SyntaxNode, above: readonly SyntaxNode[]): Context | null {
  const names: string[] = []
  let callee: string | null = null
  let variable: string | null = null
  let child = node
  for (let at = above.length - 1; at >= 0; at--) {
    const parent = above[at]!
    const step = parent.type === 'AssignmentPattern' ? defaultStep(parent, above.slice(0, at)) : stepUp(parent, child)
    if (step === 'no value') return null
    if (step === 'stop') break
    if (step !== null) {
      if (step.name !== undefined && step.name !== '') names.unshift(step.name)
      // Only the function the value goes into directly counts.
      callee ??= step.callee ?? null
      variable ??= step.variable ?? null
      if (step.last) {
        const group = names.length > 0 ? groupOf(parent, above.slice(0, at)) : undefined
        if (group !== undefined) names.unshift(group)
        break
      }
    }
    child = parent
  }
  return { names, callee, variable }
}

/** Functions that make what a program then works with: a pool, a client, a connection. */
const MAKERS = /^(create|connect|make|open|build|init|configure|setup|new)(?![a-z])/

/** What the members of an object belong to that is given to a class or a maker: the variable that it is kept in, or the class. */
function groupOf(call: SyntaxNode, above: readonly SyntaxNode[]): string | undefined {
  const callee = nameOf(call.callee) ?? ''
  const isClass = call.type === 'NewExpression'
  if (!isClass && !(call.type.endsWith('CallExpression') && MAKERS.test(callee))) return undefined
  const holder = above.findLast(({ type }) => type !== 'AwaitExpression')
  if (holder?.type === 'VariableDeclarator') return nameOf(holder.id)
  if (holder?.type === 'AssignmentExpression') return nameOf(holder.left)
  if (holder?.type === 'ObjectProperty' || holder?.type === 'ClassProperty') return nameOf(holder.key)
  return isClass ? callee : undefined
}

interface Step {
  readonly name?: string | undefined
  readonly callee?: string | undefined
  readonly variable?: string | undefined
  /** True where what is further up says nothing of the value. */
  readonly last?: boolean
}

/** What one node says about a value below it; `null` where it says nothing and those above it may. */
function stepUp(parent: SyntaxNode, child: SyntaxNode): Step | null | 'no value' | 'stop' {
  switch (parent.type) {
    case 'VariableDeclarator':
      return { name: nameOf(parent.id), last: true }
    case 'AssignmentExpression':
      return parent.right === child ? { name: nameOf(parent.left), last: true } : 'stop'
    case 'ObjectProperty':
    case 'ClassProperty':
    case 'ClassPrivateProperty':
    case 'ClassAccessorProperty':
      if (parent.key === child && !parent.computed) return 'no value'
      return parent.value === child ? { name: nameOf(parent.key) } : 'stop'
    case 'JSXAttribute':
      return { name: nameOf(parent.name), last: true }
    case 'CallExpression':
    case 'OptionalCallExpression':
    case 'NewExpression':
      return callStep(parent, child)
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      if (parent.property === child) return 'no value'
      return parent.computed || KEEPERS.has(nameOf(parent.property) ?? '') ? null : 'stop'
    case 'BinaryExpression':
      return binaryStep(parent, child)
    case 'LogicalExpression':
      // `process.env.DOME_KEY || '...'`: the variable that the value stands in for names it best.
      return parent.right === child ? variableStep(parent.left) : null
    case 'ReturnStatement':
    case 'ArrowFunctionExpression':
    case 'BlockStatement':
    case 'ConditionalExpression':
    case 'TemplateLiteral':
    case 'ArrayExpression':
    case 'ObjectExpression':
    case 'ClassBody':
    case 'AwaitExpression':
    case 'ParenthesizedExpression':
    case 'JSXExpressionContainer':
    case 'TSAsExpression':
    case 'TSSatisfiesExpression':
    case 'TSNonNullExpression':
    case 'SpreadElement':
      return parent.type === 'BlockStatement' && child.type !== 'ReturnStatement' ? 'stop' : null
    case 'FunctionDeclaration':
    case 'ClassMethod':
    case 'ObjectMethod':
      return { name: nameOf(parent.id ?? parent.key), last: true }
    default:
      return 'stop'
  }
}

/** What is said of the default of a pattern: by what it is taken from, and by the name that it gets. */
function defaultStep(pattern: SyntaxNode, above: readonly SyntaxNode[]): Step {
  const own = nameOf(pattern.left)
  const [declaration, , property] = above.slice(-3)
  if (property?.type !== 'ObjectProperty' || property.value !== pattern) return { name: own, last: true }
  const key = nameOf(property.key)
  const isVariable = declaration?.type === 'VariableDeclarator' && nameOf(declaration.init) === 'env'
  return { name: key ?? own, variable: isVariable ? key : undefined, last: true }
}

function callStep(call: SyntaxNode, child: SyntaxNode): Step | null | 'no value' {
  // A method of the value itself.
  if (call.callee === child) return null
  const callee = nameOf(call.callee)
  if (callee === 'require' || (call.callee as SyntaxNode).type === 'Import') return 'no value'
  const given = call.arguments as SyntaxNode[]
  const before = given[given.indexOf(child) - 1]
  // `headers.set('authorization', '...')`: the text before says what it is.
  const text = before?.type === 'StringLiteral' && NAMERS.test(callee ?? '') ? String(before.value) : ''
  const named = isTellingName(text) ? text : undefined
  return { name: named, callee, last: named !== undefined || !WRAPPERS.has(callee ?? '') }
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

function binaryStep(parent: SyntaxNode, child: SyntaxNode): Step | null | 'stop' {
  if (parent.operator === '+') return null
  if (parent.operator !== '===' && parent.operator !== '==' && parent.operator !== '!==' && parent.operator !== '!=')
    return 'stop'
  return { name: nameOf(parent.left === child ? parent.right : parent.left), last: true }
}

function variableStep(left: unknown): Step {
  const variable = environmentName(left)
  return { name: variable, variable }
}

/** `NAME` of `process.env.NAME` or `import.meta.env.NAME`. */
export function environmentName(node: unknown): string | undefined {
  const { type, object, property } = (node ?? {}) as SyntaxNode
  const isMember = type === 'MemberExpression' || type === 'OptionalMemberExpression'
  return isMember && nameOf(object) === 'env' ? nameOf(property) : undefined
}

/** The last name of an expression: `c` of `a.b.c`. */
function nameOf(node: unknown): string | undefined {
  const { type, name, value, property, id, callee } = (node ?? {}) as SyntaxNode
  switch (type) {
    case 'Identifier':
    case 'JSXIdentifier':
      return String(name)
    case 'StringLiteral':
      return String(value)
    case 'PrivateName':
      return nameOf(id)
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      return nameOf(property)
    case 'JSXNamespacedName':
      return nameOf(name)
    case 'CallExpression':
      return nameOf(callee)
    default:
      return undefined
  }
}
