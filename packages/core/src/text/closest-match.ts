/**
 * Finds the word that was probably meant.
 *
 * Distance is the optimal string alignment distance: insertions, deletions, replacements and swaps of
 * neighbours each count one. A word is near when at most a third of it, and at most two letters, differ.
 */

/** One bit for each letter or digit that occurs, so that most pairs are told apart without comparing them. */
function toLetters(word: string): number {
  let bits = 0
  for (let i = 0; i < word.length; i++) bits |= 1 << (word.charCodeAt(i) & 31)
  return bits
}

function countBits(bits: number): number {
  let count = 0
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++
  return count
}

/** Rows of the table of distances, kept between calls: most time would go into making them again. */
const rows = [new Uint8Array(256), new Uint8Array(256), new Uint8Array(256)] as [Uint8Array, Uint8Array, Uint8Array]

/**
 * The distance between two words of at most 200 characters, or `limit + 1` as soon as it is known to be larger than `limit`.
 * Only cells that can hold `limit` or less are worked out: a band around the diagonal.
 */
function measureDistance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return limit + 1
  let [beforeLast, last, row] = rows
  const far = limit + 1
  for (let j = 0; j <= b.length; j++) last[j] = Math.min(j, far)
  for (let i = 1; i <= a.length; i++) {
    if (fillRow(a, b, i, limit, beforeLast, last, row) > limit) return far
    ;[beforeLast, last, row] = [last, row, beforeLast]
  }
  return last[b.length]!
}

/**
 * Works out one row of the table: the distances of the first `i` characters of one word to the beginnings of the other.
 *
 * @returns the least of them
 */
function fillRow(
  a: string,
  b: string,
  i: number,
  limit: number,
  beforeLast: Uint8Array,
  last: Uint8Array,
  row: Uint8Array,
): number {
  const far = limit + 1
  const from = Math.max(1, i - limit)
  const to = Math.min(b.length, i + limit)
  let best = (row[from - 1] = from === 1 ? Math.min(i, far) : far)
  for (let j = from; j <= to; j++) {
    const same = a.charCodeAt(i - 1) === b.charCodeAt(j - 1)
    let cost = Math.min(j < i + limit ? last[j]! + 1 : far, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1))
    if (isSwapped(a, b, i, j)) cost = Math.min(cost, beforeLast[j - 2]! + 1)
    row[j] = Math.min(cost, far)
    if (cost < best) best = cost
  }
  if (to < b.length) row[to + 1] = far
  return best
}

/** True if the characters before `i` and `j` are two neighbors in reverse order. */
function isSwapped(a: string, b: string, i: number, j: number): boolean {
  if (i < 2 || j < 2) return false
  return a.charCodeAt(i - 1) === b.charCodeAt(j - 2) && a.charCodeAt(i - 2) === b.charCodeAt(j - 1)
}

/**
 * Makes a search over a fixed set of words.
 *
 * @param words the words that exist
 * @returns a function that takes a word and gives the nearest existing one, or `null` where none is near;
 *   a word that differs in case alone is the nearest of all
 * @example
 * ```ts
 * makeClosestMatch(['DOME_KEY', 'DOME_URL'])('DOME_KYE') // 'DOME_KEY'
 * ```
 */
export function makeClosestMatch(words: Iterable<string>): (word: string) => string | null {
  const known = [...words]
    .filter((word) => word.length <= 202)
    .map((word) => {
      const upper = word.toUpperCase()
      return { word, upper, bits: toLetters(upper) }
    })
  return (word) => {
    if (word.length > 200) return null
    const upper = word.toUpperCase()
    const bits = toLetters(upper)
    let nearest: string | null = null
    let nearestDistance = Math.min(2, Math.floor(upper.length / 3)) + 1
    for (const candidate of known) {
      const limit = nearestDistance - 1
      if (Math.abs(candidate.upper.length - upper.length) > limit) continue
      if (countBits(candidate.bits ^ bits) > 2 * limit) continue
      const found = measureDistance(candidate.upper, upper, limit)
      if (found < nearestDistance) {
        nearest = candidate.word
        nearestDistance = found
      }
    }
    return nearest
  }
}
