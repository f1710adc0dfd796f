import { addNode, type GrowingNode, growTree, type TreeNode } from './node.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** As much of a parser of Lezer as is used here. */
interface LezerParser {
  parse(text: string): { cursor(): LezerCursor }
}

interface LezerCursor {
  readonly name: string
  readonly from: number
  readonly to: number
  readonly type: { readonly isError: boolean }
  firstChild(): boolean
  nextSibling(): boolean
  parent(): boolean
}

/** The type of a node for what is not understood. */
export const ERROR = 'Error'

/**
 * Makes a function that parses with a grammar of Lezer, which is loaded when it is needed first. What is wrong in one place does
 * not keep the rest from being understood.
 *
 * @param load imports the grammar
 */
export function lezerParser(load: (require: NodeJS.Require) => unknown): (text: string) => TreeNode {
  let parser: LezerParser | undefined
  return (text) => {
    parser ??= (load(createRequire(import.meta.url)) as { parser: LezerParser }).parser
    // No grammar knows a byte order mark.
    const mark = text.startsWith('\ufeff') ? 1 : 0
    const cursor = parser.parse(text.slice(mark)).cursor()
    const root = growTree(cursor.name, cursor.from, cursor.to + mark)
    if (cursor.firstChild()) growChildren(root, cursor, mark)
    return root
  }
}

/** Adds the node at a cursor, everything below it, and its siblings; `shift` is how much stands before the parsed text. */
function growChildren(root: GrowingNode, cursor: LezerCursor, shift: number): void {
  const above = [root]
  while (above.length > 0) {
    // What an escape stands for is no part of its own.
    const isEscape = /^Escape/.test(cursor.name)
    const name = cursor.type.isError ? ERROR : cursor.name
    const node = isEscape ? null : addNode(above.at(-1)!, name, cursor.from + shift, cursor.to + shift)
    if (node !== null && cursor.firstChild()) {
      above.push(node)
      continue
    }
    while (above.length > 0 && !cursor.nextSibling()) {
      above.pop()
      cursor.parent()
    }
  }
}
