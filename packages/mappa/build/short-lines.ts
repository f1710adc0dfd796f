import { parse } from '@babel/parser'
import MagicString from 'magic-string'
import type { Plugin } from 'vite'
import type { SyntaxNode } from '../src/javascript/syntax-node.ts'
import { visit } from '../src/javascript/tree.ts'

/** What begins a line, by the nodes that it stands in. */
const BEGINNERS: Readonly<Record<string, string>> = {
  Program: 'body',
  BlockStatement: 'body',
  ClassBody: 'body',
  ObjectExpression: 'properties',
}

/** Breaks minified lines between statements, members and properties: Node prints the whole line that an uncaught error comes from. */
export function shortLines(): Plugin {
  return {
    name: 'short-lines',
    generateBundle(_, bundle) {
      for (const chunk of Object.values(bundle)) if (chunk.type === 'chunk') chunk.code = broken(chunk.code)
    },
  }
}

function broken(code: string): string {
  const lines = new MagicString(code)
  const { program } = parse(code, { sourceType: 'module' })
  visit(program as unknown as SyntaxNode, [], (node) => {
    const parts = node[BEGINNERS[node.type] ?? ''] as readonly SyntaxNode[] | undefined
    // A short object stays on its line.
    if (parts === undefined || (node.type === 'ObjectExpression' && parts.length < 6)) return
    for (const { start } of parts) if (start > 0) lines.appendLeft(start, '\n')
  })
  return lines.toString()
}
