import { pairKey, type SearchIndex, tripleKey } from '../search-index.ts'
import { resolveEscape } from './unescape.ts'

/** What a text holds beside what stands in it as it is. */
export interface EncodedRegions {
  /** The parts in which a searched text may be written in another way, with a NUL between those that do not belong together. */
  readonly parts: string
  /** The files within addresses (RFC 2397), such as small pictures, in base64. */
  readonly files: readonly string[]
}

/** What may lie between two pieces, in characters, beside the pieces. */
const MAX_JOINT = 256
/** Stands between two parts that do not belong together. */
const GAP = '\0'

/**
 * Looks for what is escaped, put together from pieces, or within an address. In most files that is nothing, and they need not be
 * read again.
 *
 * @param text one character, up to U+00FF, for each byte
 */
export function findEncodedRegions(text: string, searchIndex: SearchIndex): EncodedRegions {
  const reach = searchIndex.longest + MAX_JOINT
  const parts: string[] = []
  const files: string[] = []
  let from = 0
  let to = 0
  let next = 0
  for (let match = searchIndex.findSpot(text, 0); match !== null; match = searchIndex.findSpot(text, next)) {
    const [spot, short] = match
    const { index } = match
    const end = index + spot.length
    const resume = findResume(text, index, end, short !== undefined, searchIndex)
    next = resume ?? end
    if (resume !== null) continue
    if (spot === ADDRESS) {
      files.push(readDigits(text, end))
      continue
    }
    if (index - reach > to || to === 0) {
      if (to > 0) parts.push(text.slice(from, to))
      from = Math.max(0, index - reach)
    }
    to = end + reach
  }
  if (to > 0) parts.push(text.slice(from, to))
  return { parts: parts.join(GAP), files }
}

/** Where to go on behind what only looked like a joint or an escape; `null` for what is one, or something else. */
function findResume(text: string, index: number, end: number, short: boolean, searchIndex: SearchIndex): number | null {
  // What looked like a joint may be part of a value, and hold something else.
  if (JOINT.test(text.slice(index, end)) && !holdsJoint(text, index - 1, end, searchIndex)) return index + 1
  return short && !holdsEscape(text, index - 1, end, searchIndex) ? end - 1 : null
}

/** From a quote to a quote, each of which may be escaped. */
const JOINT = /^["'`\\].*[+,(].*["'`]$/s

/** The end of what names the kind of a file within an address. */
const ADDRESS = ';base64,'
const DIGITS = /[\w+/-]*/y

/** The base64 (RFC 4648) that begins at a place. */
function readDigits(text: string, from: number): string {
  DIGITS.lastIndex = from
  return DIGITS.exec(text)![0]
}

/**
 * Whether what a joint brings together stands together in a searched text. Of three neighbours, because a joint within a
 * text of three bytes or more has two of them on one side. Beside escapes anything is possible, and behind an empty piece.
 *
 * @param left where the piece before the joint ends
 * @param right where the piece behind it begins
 */
function holdsJoint(text: string, left: number, right: number, { pairs, triples }: SearchIndex): boolean {
  // Where an empty piece begins nothing is joined yet; that is reported where the next piece begins.
  if (text[right] === text[right - 1]) return false
  if (!isPlain(text, left) || !isPlain(text, right)) return true
  const [before, behind] = [text.charCodeAt(left), text.charCodeAt(right)]
  if (pairs[pairKey(before, behind)] === 0) return false
  if (!isPlain(text, left - 1) || !isPlain(text, right + 1)) return true
  return (
    triples[tripleKey(text.charCodeAt(left - 1), before, behind)] === 1 ||
    triples[tripleKey(before, behind, text.charCodeAt(right + 1))] === 1
  )
}

/**
 * Whether an escape of one letter stands, with its neighbours, in a searched text.
 *
 * @param left what is before the escape
 * @param right what is behind it
 */
function holdsEscape(text: string, left: number, right: number, { pairs, triples }: SearchIndex): boolean {
  if (!isPlain(text, left) || !isPlain(text, right)) return true
  const meant = resolveEscape(text.charCodeAt(right - 1))
  const [before, behind] = [text.charCodeAt(left), text.charCodeAt(right)]
  if (pairs[pairKey(before, meant)] === 0 && pairs[pairKey(meant, behind)] === 0) return false
  if (!isPlain(text, left - 1) || !isPlain(text, right + 1)) return true
  return (
    triples[tripleKey(text.charCodeAt(left - 1), before, meant)] === 1 ||
    triples[tripleKey(before, meant, behind)] === 1 ||
    triples[tripleKey(meant, behind, text.charCodeAt(right + 1))] === 1
  )
}

/** True for a character that stands for itself: no quote, and neither the beginning nor the letter of an escape. */
function isPlain(text: string, at: number): boolean {
  const character = text[at]
  return character !== undefined && character !== '\\' && !isQuote(character) && text[at - 1] !== '\\'
}

const isQuote = (character: string) => character === '"' || character === "'" || character === '`'
