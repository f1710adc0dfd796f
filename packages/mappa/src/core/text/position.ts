/**
 * The line and column of a place in a text, both from 1; columns in UTF-16 code units, as editors count.
 *
 * @param offset how many code units are before the place
 * @example
 * ```ts
 * positionAt('dome\nnight', 6) // { line: 2, column: 2 }
 * ```
 */
export function positionAt(text: string, offset: number): { readonly line: number; readonly column: number } {
  const before = text.slice(0, offset).split('\n')
  return { line: before.length, column: before.at(-1)!.length + 1 }
}
