/**
 * Finds the word somebody probably meant.
 *
 * Distance is the optimal string alignment distance: insertions, deletions, replacements and swaps of
 * neighbours each count one. A word is near when at most a third of it, and at most two letters, differ.
 */

/** One bit for each letter or digit that occurs, so that most pairs are told apart without comparing them. */
function letters(word: string): number {
  let bits = 0
  for (let i = 0; i < word.length; i++) bits |= 1 << (word.charCodeAt(i) & 31)
  return bits
}

function countBits(bits: number): number {
  let count = 0
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++
  return count
}

/** The distance between two words, or `limit + 1` as soon as it is known to be larger than `limit`. */
function distance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return limit + 1
  let beforeLast: number[] = []
  let last = Array.from({ length: b.length + 1 }, (_, j) => j)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    let best = i
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1]
      let cost = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1))
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        cost = Math.min(cost, beforeLast[j - 2]! + 1)
      }
      row.push(cost)
      if (cost < best) best = cost
    }
    if (best > limit) return limit + 1
    beforeLast = last
    last = row
  }
  return last[b.length]!
}

/**
 * Makes a search over a fixed set of words.
 *
 * @param words the words that exist
 * @returns a function that takes a word and gives the nearest existing one, or `null` where none is near;
 *   a word that differs in case alone is the nearest of all
 * @example
 * ```ts
 * nearestOf(['DOME_KEY', 'DOME_URL'])('DOME_KYE') // 'DOME_KEY'
 * ```
 */
export function nearestOf(words: Iterable<string>): (word: string) => string | null {
  const known = [...words].map((word) => {
    const upper = word.toUpperCase()
    return { word, upper, bits: letters(upper) }
  })
  return (word) => {
    if (word.length > 200) return null
    const upper = word.toUpperCase()
    const bits = letters(upper)
    let nearest: string | null = null
    let nearestDistance = Math.min(2, Math.floor(upper.length / 3)) + 1
    for (const candidate of known) {
      const limit = nearestDistance - 1
      if (Math.abs(candidate.upper.length - upper.length) > limit) continue
      if (countBits(candidate.bits ^ bits) > 2 * limit) continue
      const found = distance(candidate.upper, upper, limit)
      if (found < nearestDistance) {
        nearest = candidate.word
        nearestDistance = found
      }
    }
    return nearest
  }
}
