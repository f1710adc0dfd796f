import type { SyntaxNode } from './syntax-node.ts'
import { isNode, readPlainName, visit } from './tree.ts'

/** Where a variable comes from: the environment of the process, or what a bundler builds in. */
export type EnvironmentSource = 'process' | 'built'

/** An environment that is not read at once, but given to something. */
const HANDED_ON = /(?:process|Bun|meta)\s*\??\.\s*env\b(?!\s*(?:\??\.|\[))|\benv\b[^;\n]*\bprocess\b|\bloadEnv\b/
/** The names in trees that stand for an environment. */
const RENAMED = new WeakMap<SyntaxNode, EnvironmentSource>()

/**
 * Remembers where a tree has an environment under another name: `e` of `e.DOME_KEY`, after `const e = process.env`.
 *
 * @param text what the tree was parsed from
 */
export function rememberRenamed(tree: SyntaxNode, text: string): void {
  if (!HANDED_ON.test(text)) return
  const named = new Map<string, EnvironmentSource>()
  visit(tree, [], (node) => {
    const source = node.type === 'Identifier' ? named.get(String(node.name)) : undefined
    if (source !== undefined) RENAMED.set(node, source)
    for (const [name, given] of namesGiven(node)) named.set(name, given)
  })
}

/** The names that a node gives to an environment. */
function namesGiven({ type, source, specifiers, id, init }: SyntaxNode): readonly [string, EnvironmentSource][] {
  if (type === 'ImportDeclaration') {
    if (!/^(?:node:)?process$/.test(String((source as SyntaxNode).value))) return []
    return (specifiers as SyntaxNode[]).flatMap(({ imported, local }) => nameEnvironments(imported, local))
  }
  if (type !== 'VariableDeclarator') return []
  const pattern = id as SyntaxNode
  const given = findEnvironment(init)
  if (pattern.type === 'Identifier') return given === null ? [] : [[String(pattern.name), given]]
  if (pattern.type !== 'ObjectPattern' || !isProcess(init)) return []
  return (pattern.properties as SyntaxNode[]).flatMap(({ key, value }) => nameEnvironments(key, value))
}

function nameEnvironments(name: unknown, own: unknown): [string, EnvironmentSource][] {
  return readPlainName(name) === 'env' ? [[readPlainName(own), 'process']] : []
}

/** Which environment a node is: that of the process, or the one that a bundler builds in; `null` if none. */
export function findEnvironment(node: unknown): EnvironmentSource | null {
  if (!isNode(node)) return null
  if (node.type === 'Identifier') return RENAMED.get(node) ?? null
  // What Vite gives its configuration is the environment, and env files.
  if (node.type === 'CallExpression') return readPlainName(node.callee) === 'loadEnv' ? 'process' : null
  if (node.type !== 'MemberExpression' && node.type !== 'OptionalMemberExpression') return null
  if (readPlainName(node.property) !== 'env') return null
  const object = node.object as SyntaxNode
  if (object.type === 'MetaProperty') return 'built'
  return isProcess(object) ? 'process' : null
}

function isProcess(node: unknown): boolean {
  if (!isNode(node)) return false
  if (node.type === 'CallExpression') {
    const [module] = node.arguments as SyntaxNode[]
    return (node.callee as SyntaxNode).name === 'require' && /^(?:node:)?process$/.test(String(module?.value))
  }
  const name = node.type === 'MemberExpression' ? (node.property as SyntaxNode).name : node.name
  return name === 'process' || name === 'Bun'
}
