import type { Node } from '@babel/types'
import { parseSource } from './parser.ts'
import { visit } from './tree.ts'

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
    visit(tree, (node) => {
      const named = readSpecifier(node)
      if (named?.type === 'StringLiteral') found.push(named.value)
    })
  return found
}

/** The node with the name of the module that a node loads, if it loads one. */
function readSpecifier(node: Node): Node | null | undefined {
  switch (node.type) {
    case 'ImportDeclaration':
      return node.importKind === 'type' ? null : node.source
    case 'ExportNamedDeclaration':
    case 'ExportAllDeclaration':
      return node.exportKind === 'type' ? null : node.source
    case 'ImportExpression':
      return node.source
    case 'CallExpression':
      return isLoader(node.callee) ? node.arguments[0] : null
    default:
      return null
  }
}

function isLoader(callee: Node): boolean {
  return callee.type === 'Import' || (callee.type === 'Identifier' && callee.name === 'require')
}
