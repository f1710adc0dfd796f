import { parse } from '@babel/parser'
import type { Program } from '@babel/types'
import { rememberRenamed } from './environments.ts'
import { parseText } from './parse-with.ts'

/**
 * Parses JavaScript or TypeScript, with or without JSX. What is wrong in one place does not keep the rest from being
 * understood.
 *
 * @param file a name whose ending says the language
 * @returns the tree; `null` where the text can't be understood at all
 */
export function parseSource(text: string, file: string): Program | null {
  const tree = parseText(parse, text, file)?.program ?? null
  if (tree !== null) rememberRenamed(tree, text)
  return tree
}

/** How many places of a text are not understood, as far as the parser goes on behind them. */
export function countFaults(text: string, file: string): number {
  const parsed = parseText(parse, text, file)
  return parsed === null ? Number.POSITIVE_INFINITY : parsed.faults
}
