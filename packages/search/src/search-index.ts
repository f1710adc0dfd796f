import { type FindSpot, makeSpotFinder } from './decode/spots.ts'

/** What is known of the texts that are looked for, together. */
export interface SearchIndex {
  /** The length of the longest, in characters. */
  readonly longest: number
  /** Finds what may be within one of them in code, written in another way than as it stands. */
  readonly findSpot: FindSpot
  /** By two neighbours: 1 for those that are in one of the texts. */
  readonly pairs: Uint8Array
  /** By three neighbours, some of which share an entry: 1 for those that may be in one. */
  readonly triples: Uint8Array
}

/**
 * Takes in what is looked for.
 *
 * @param texts each of at least three characters, one for each byte
 */
export function buildSearchIndex(texts: readonly string[]): SearchIndex {
  const bytes = new Set<number>()
  const [pairs, triples] = [new Uint8Array(65_536), new Uint8Array(65_536)]
  let longest = 0
  for (const text of texts) {
    longest = Math.max(longest, text.length)
    // What comes before a text is read as NUL, which adds entries and takes none away.
    let [first, second] = [0, 0]
    for (let at = 0; at < text.length; at++) {
      const third = text.charCodeAt(at)
      bytes.add(third)
      pairs[pairKey(second, third)] = 1
      triples[tripleKey(first, second, third)] = 1
      first = second
      second = third
    }
  }
  return { longest, findSpot: makeSpotFinder(bytes, pairs), pairs, triples }
}

/** The entry of two neighbours. */
export const pairKey = (first: number, second: number) => first * 256 + second
/** The entry of three. */
export const tripleKey = (first: number, second: number, third: number) =>
  ((first * 961 + second * 31 + third) * 40_503) & 65_535
