import type { Node } from '@babel/types'

/** A part of a text: offsets from 0, the second one behind its last character. */
export interface TextRange {
  readonly start: number
  readonly end: number
}

/**
 * Where a node begins and ends in the text that was parsed. Babel's types are also those of nodes that somebody made, which have no
 * place; such a one is a fault of ours.
 */
export function getRange({ type, start, end }: Node): TextRange {
  if (start == null || end == null) throw new TypeError(`A node of type ${type} has no place.`)
  return { start, end }
}

/** The line and the column at which a node begins, from 1. */
export function getPosition({ type, loc }: Node): { readonly line: number; readonly column: number } {
  if (loc == null) throw new TypeError(`A node of type ${type} has no place.`)
  return { line: loc.start.line, column: loc.start.column + 1 }
}
