import type { Node } from '@babel/types'
import { readPlainName, visit } from './tree.ts'

/** Where a variable comes from: the environment of the process, or what a bundler builds in. */
export type EnvironmentSource = 'process' | 'built'

/** An environment that is not read at once, but given to something. */
const HANDED_ON = /(?:process|Bun|meta)\s*\??\.\s*env\b(?!\s*(?:\??\.|\[))|\benv\b[^;\n]*\bprocess\b|\bloadEnv\b/
/** The names in trees that stand for an environment. */
const RENAMED = new WeakMap<Node, EnvironmentSource>()

/**
 * Remembers where a tree has an environment under another name: `e` of `e.DOME_KEY`, after `const e = process.env`.
 *
 * @param text what the tree was parsed from
 */
export function rememberRenamed(tree: Node, text: string): void {
  if (!HANDED_ON.test(text)) return
  const named = new Map<string, EnvironmentSource>()
  visit(tree, (node) => {
    const source = node.type === 'Identifier' ? named.get(node.name) : undefined
    if (source !== undefined) RENAMED.set(node, source)
    for (const [name, given] of namesGiven(node)) named.set(name, given)
  })
}

/** The names that a node gives to an environment. */
function namesGiven(node: Node): readonly [string, EnvironmentSource][] {
  if (node.type === 'ImportDeclaration') {
    if (!PROCESS_MODULE.test(node.source.value)) return []
    return node.specifiers.flatMap((each) =>
      each.type === 'ImportSpecifier' ? nameEnvironments(each.imported, each.local) : [],
    )
  }
  if (node.type !== 'VariableDeclarator') return []
  const { id, init } = node
  const given = findEnvironment(init)
  if (id.type === 'Identifier') return given === null ? [] : [[id.name, given]]
  if (id.type !== 'ObjectPattern' || !isProcess(init)) return []
  return id.properties.flatMap((each) => (each.type === 'ObjectProperty' ? nameEnvironments(each.key, each.value) : []))
}

const PROCESS_MODULE = /^(?:node:)?process$/

function nameEnvironments(name: Node, own: Node): [string, EnvironmentSource][] {
  return readPlainName(name) === 'env' ? [[readPlainName(own), 'process']] : []
}

/** Which environment a node is: that of the process, or the one that a bundler builds in; `null` if none. */
export function findEnvironment(node: Node | null | undefined): EnvironmentSource | null {
  switch (node?.type) {
    case 'Identifier':
      return RENAMED.get(node) ?? null
    case 'CallExpression':
      // What Vite gives its configuration is the environment, and env files.
      return readPlainName(node.callee) === 'loadEnv' ? 'process' : null
    case 'MemberExpression':
    case 'OptionalMemberExpression':
      if (readPlainName(node.property) !== 'env') return null
      if (node.object.type === 'MetaProperty') return 'built'
      return isProcess(node.object) ? 'process' : null
    default:
      return null
  }
}

function isProcess(node: Node | null | undefined): boolean {
  if (node?.type === 'CallExpression') {
    const [module] = node.arguments
    return readPlainName(node.callee) === 'require' && PROCESS_MODULE.test(readPlainName(module))
  }
  const named = node?.type === 'MemberExpression' ? node.property : node
  return named?.type === 'Identifier' && (named.name === 'process' || named.name === 'Bun')
}
