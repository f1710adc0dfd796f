import { startOfLine } from './lines.ts'
import { growTree, type TreeNode } from './node.ts'
import type { ChangedLiteral } from './rewriting.ts'

/**
 * The whole of what reads a variable and has a literal in the place of a missing value, in a tree of tokens.
 *
 * @param before what stands before the literal, from the beginning of the read on
 * @param opens what the read begins with
 * @returns a node of just that range; `null` where the literal stands elsewhere
 */
export function tokenFallback({ node, text }: ChangedLiteral, before: RegExp, opens: RegExp): TreeNode | null {
  const line = startOfLine(text, node.start)
  for (let at = line; at < node.start; at++) {
    if (/\w/.test(text[at - 1] ?? '') || !opens.test(text.slice(at, node.start))) continue
    if (!before.test(text.slice(at, node.start))) continue
    // A call with a second argument ends behind it.
    const closing = text.slice(at, node.start).trimEnd().endsWith(',') ? /^\s*\)/.exec(text.slice(node.end)) : null
    return growTree('Fallback', at, node.end + (closing?.[0].length ?? 0))
  }
  return null
}
