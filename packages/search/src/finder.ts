/** Tells which of many texts stand in another one, by their numbers; each is reported once. */
export type Finder = (text: string, found: (index: number) => void) => void

/** Of each text so many characters are looked for first, or as many as the shortest one has. */
const LONGEST_HEAD = 16
/** So many neighbours decide how far the search goes on. */
const BLOCK = 3
const TABLE_BITS = 16
const NOTHING = -1

/**
 * Prepares to look for many texts at once, after Wu and Manber ("A fast algorithm for multi-pattern searching", 1994): most places are skipped
 * by one look into a table, which says of three neighbours how far from the end of a head they stand at least.
 *
 * @param texts what to look for, each of at least three characters up to U+00FF; empty ones are never found
 * @example
 * ```ts
 * const find = makeFinder(['mirror cover', 'dome light'])
 * find('the dome light is on', (index) => console.log(index)) // 1
 * ```
 */
export function makeFinder(texts: readonly string[]): Finder {
  const wanted = texts.flatMap((text, index) => (text === '' ? [] : index))
  return wanted.length === 0 ? () => {} : makeSkippingFinder(texts, wanted)
}

/** Which texts end their heads with three neighbours that share a place in the table: a list for each place. */
interface Candidates {
  readonly first: Int32Array
  readonly next: Int32Array
}

function makeSkippingFinder(texts: readonly string[], wanted: readonly number[]): Finder {
  const head = Math.min(LONGEST_HEAD, ...wanted.map((index) => texts[index]!.length))
  const skips = new Uint8Array(1 << TABLE_BITS).fill(head - BLOCK + 1)
  const candidates: Candidates = {
    first: new Int32Array(1 << TABLE_BITS).fill(NOTHING),
    next: new Int32Array(texts.length).fill(NOTHING),
  }
  // The first of them is to be looked at first.
  for (const index of [...wanted].reverse()) {
    const text = texts[index]!
    for (let end = BLOCK; end <= head; end++) {
      const key = hashBlock(text, end - 1)
      skips[key] = Math.min(skips[key]!, head - end)
    }
    const key = hashBlock(text, head - 1)
    candidates.next[index] = candidates.first[key]!
    candidates.first[key] = index
  }
  return (text, found) => {
    const seen = new Set<number>()
    for (let end = head - 1; end < text.length; ) {
      const key = hashBlock(text, end)
      const skip = skips[key]!
      if (skip > 0) {
        end += skip
        continue
      }
      for (let index = candidates.first[key]!; index !== NOTHING; index = candidates.next[index]!) {
        const at = end - head + 1
        if (seen.has(index) || !text.startsWith(texts[index]!, at)) continue
        seen.add(index)
        found(index)
      }
      end++
    }
  }
}

/** Of three neighbours, by where they end. Characters beyond U+00FF share the places of others, which costs a comparison. */
function hashBlock(text: string, end: number): number {
  const mixed = text.charCodeAt(end - 2) * 961 + text.charCodeAt(end - 1) * 31 + text.charCodeAt(end)
  return Math.imul(mixed, 40_503) & ((1 << TABLE_BITS) - 1)
}
