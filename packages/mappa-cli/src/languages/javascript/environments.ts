import { isNode, plainName } from '../../../../mappa/src/javascript/tree.ts'
import type { SyntaxNode } from './parser.ts'

/** Where a variable comes from: the environment of the process, or what a bundler builds in. */
export type EnvironmentSource = 'process' | 'built'

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
