import { parse } from '@babel/parser'
import type { Node } from '@babel/types'
import { getRange } from '@mappa/source/javascript/place'
import { visit } from '@mappa/source/javascript/tree'
import MagicString from 'magic-string'
import type { Plugin } from 'vite'

/** What begins a line. A short object stays on its own. */
function listBeginnings(node: Node): readonly Node[] {
  if (node.type === 'ObjectExpression') return node.properties.length < 6 ? [] : node.properties
  const hasParts = node.type === 'Program' || node.type === 'BlockStatement' || node.type === 'ClassBody'
  return hasParts ? node.body : []
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
  visit(program, (node) => {
    beginnings.push(...listBeginnings(node).map((each) => getRange(each).start))
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
