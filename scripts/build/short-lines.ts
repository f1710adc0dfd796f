import { parse } from '@babel/parser'
import type { SyntaxNode } from '@mappa/source/javascript/syntax-node'
import { visit } from '@mappa/source/javascript/tree'
import MagicString from 'magic-string'
import type { Plugin } from 'vite'

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

/** What fits on a line stays on it, in characters. */
const WIDEST = 120

function broken(code: string): string {
  const beginnings: number[] = []
  const { program } = parse(code, { sourceType: 'module' })
  visit(program as unknown as SyntaxNode, [], (node) => {
    const parts = node[BEGINNERS[node.type] ?? ''] as readonly SyntaxNode[] | undefined
    // A short object stays on its line.
    if (parts === undefined || (node.type === 'ObjectExpression' && parts.length < 6)) return
    beginnings.push(...parts.map(({ start }) => start))
  })
  beginnings.sort((a, b) => a - b)
  const lines = new MagicString(code)
  let last = 0
  for (const [index, at] of beginnings.entries()) {
    if ((beginnings[index + 1] ?? code.length) - last <= WIDEST || at === last) continue
    lines.appendLeft(at, '\n')
    last = at
  }
  return lines.toString()
}
