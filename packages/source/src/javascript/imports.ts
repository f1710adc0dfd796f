import { parseSource, type SyntaxNode } from './parser.ts'
import { isNode, readPlainName, visit } from './tree.ts'

const STATEMENTS: ReadonlySet<string> = new Set([
  'ImportDeclaration',
  'ExportNamedDeclaration',
  'ExportAllDeclaration',
  'ImportExpression',
])

/**
 * The modules that a file of JavaScript or TypeScript loads: imports, re-exports, and calls of `import` and `require` with a fixed text.
 * Types are gone before anything is loaded, and do not count.
 *
 * @returns what is written there, such as `./keys.ts`; nothing for a file that can't be understood
 */
export function listImports(text: string, file: string): readonly string[] {
  const tree = parseSource(text, file)
  const found: string[] = []
  if (tree !== null)
    visit(tree, [], (node) => {
      const named = readSpecifier(node)
      if (isNode(named) && named.type === 'StringLiteral') found.push(readPlainName(named))
    })
  return found
}

/** The node with the name of the module that a node loads, if it loads one. */
function readSpecifier(node: SyntaxNode): unknown {
  if (STATEMENTS.has(node.type)) return isOfTypes(node) ? null : node.source
  if (node.type !== 'CallExpression') return null
  const { type, name } = node.callee as SyntaxNode
  return type === 'Import' || name === 'require' ? (node.arguments as unknown[])[0] : null
}

const isOfTypes = ({ importKind, exportKind }: SyntaxNode) => importKind === 'type' || exportKind === 'type'
