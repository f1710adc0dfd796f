/** A place in a text: line and column, both from 1. */
export interface Position {
  readonly line: number
  readonly column: number
}

/**
 * The line and column of a place in a text, both from 1; columns in UTF-16 code units, as editors count.
 *
 * @param offset how many code units are before the place
 * @example
 * ```ts
 * toPosition('dome\nnight', 6) // { line: 2, column: 2 }
 * ```
 */
export function toPosition(text: string, offset: number): Position {
  const before = text.slice(0, offset).split('\n')
  return { line: before.length, column: before.at(-1)!.length + 1 }
}

/**
 * Where a piece of text ends, behind its last character.
 *
 * @param start where it begins
 */
export function findEnd(piece: string, start: Position): Position {
  const lines = piece.split('\n')
  const last = lines.at(-1)!.length
  if (lines.length === 1) return { line: start.line, column: start.column + last }
  return { line: start.line + lines.length - 1, column: last + 1 }
}
