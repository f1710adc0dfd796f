import type { SyntaxNode } from '../../../../mappa/src/javascript/syntax-node.ts'
import { isNode, plainName, visit } from '../../../../mappa/src/javascript/tree.ts'

/** Where a variable comes from: the environment of the process, or what a bundler builds in. */
export type EnvironmentSource = 'process' | 'built'

/** What may give an environment another name. */
const RENAMES =
  /process\.env\s*(?:[;,\n]|$)|\{[^}]*\benv\b[^}]*\}\s*=\s*(?:process|require)|\benv\b[^;\n]*["'](?:node:)?process["']/
/** The names in trees that stand for an environment. */
const RENAMED = new WeakSet<SyntaxNode>()

/**
 * Remembers where a tree has an environment under another name: `e` of `e.DOME_KEY`, after `const e = process.env`.
 *
 * @param text what the tree was parsed from
 */
export function rememberRenamed(tree: SyntaxNode, text: string): void {
  if (!RENAMES.test(text)) return
  const environments = new Environments()
  visit(tree, [], (node) => {
    environments.look(node)
    const object = node.type.endsWith('MemberExpression') ? (node.object as SyntaxNode) : null
    if (object?.type === 'Identifier' && environments.sourceOf(object) !== null) RENAMED.add(object)
  })
}

/** True for a name that stands for an environment. */
export function isRenamed(node: unknown): boolean {
  return isNode(node) && RENAMED.has(node)
}

/** The environments of a file, and the names that it gives them: `const env = process.env`. */
export class Environments {
  readonly #named = new Map<string, EnvironmentSource>()

  /** Takes the names that a node gives to an environment. */
  look(node: SyntaxNode): void {
    if (node.type === 'ImportDeclaration') this.#lookAtImport(node)
    else if (node.type === 'VariableDeclarator') this.#lookAtVariable(node)
  }

  #lookAtImport({ source, specifiers }: SyntaxNode): void {
    if (!/^(?:node:)?process$/.test(String((source as SyntaxNode).value))) return
    for (const each of specifiers as SyntaxNode[])
      if (plainName(each.imported) === 'env') this.#named.set(plainName(each.local), 'process')
  }

  #lookAtVariable({ id, init }: SyntaxNode): void {
    const pattern = id as SyntaxNode
    const source = this.sourceOf(init)
    if (pattern.type === 'Identifier' && source !== null) this.#named.set(String(pattern.name), source)
    if (pattern.type !== 'ObjectPattern' || !isProcess(init)) return
    for (const each of pattern.properties as SyntaxNode[])
      if (plainName(each.key) === 'env') this.#named.set(plainName(each.value), 'process')
  }

  /** Which environment a node is; `null` if none. */
  sourceOf(node: unknown): EnvironmentSource | null {
    if (!isNode(node)) return null
    if (node.type === 'Identifier') return this.#named.get(String(node.name)) ?? null
    if (node.type !== 'MemberExpression' && node.type !== 'OptionalMemberExpression') return null
    if (plainName(node.property) !== 'env') return null
    const object = node.object as SyntaxNode
    if (object.type === 'MetaProperty') return 'built'
    return isProcess(object) ? 'process' : null
  }
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
