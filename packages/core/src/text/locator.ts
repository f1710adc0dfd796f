import type { Position } from './position.ts'

/**
 * Finds line and column of many places in one text, without counting from the beginning each time.
 *
 * @returns a function that takes an offset in UTF-16 code units, from 0
 * @example
 * ```ts
 * makeLocator('dome\nnight')(6) // { line: 2, column: 2 }
 * ```
 */
export function makeLocator(text: string): (offset: number) => Position {
  let starts: readonly number[] | undefined
  return (offset) => {
    starts ??= [0, ...Array.from(text.matchAll(/\n/g), ({ index }) => index + 1)]
    let [low, high] = [0, starts.length - 1]
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (starts[middle]! <= offset) low = middle
      else high = middle - 1
    }
    return { line: low + 1, column: offset - starts[low]! + 1 }
  }
}
