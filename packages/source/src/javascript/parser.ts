import { parse } from '@babel/parser'
import { rememberRenamed } from './environments.ts'
import { parseText } from './parse-with.ts'
import type { SyntaxNode } from './syntax-node.ts'

export type { SyntaxNode }

/**
 * Parses JavaScript or TypeScript, with or without JSX. What is wrong in one place does not keep the rest from being
 * understood.
 *
 * @param file a name whose ending says the language
 * @returns the tree; `null` where the text can't be understood at all
 */
export function parseSource(text: string, file: string): SyntaxNode | null {
  const tree = parseText(parse, text, file)?.program ?? null
  if (tree !== null) rememberRenamed(tree, text)
  return tree
}
