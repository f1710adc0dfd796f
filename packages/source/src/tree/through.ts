import type { Grammar } from './grammar.ts'
import type { TreeNode } from './node.ts'

/** True for a node that says nothing of the values in it, while those above it may. */
export function isTransparentNode(grammar: Grammar, { type }: TreeNode): boolean {
  const { through, returns, joined, named, texts, formats } = grammar
  return [through, returns, joined, named, texts, formats].some((each) => each.has(type))
}
