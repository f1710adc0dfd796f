/** What takes a text apart: `.split('.')`, as minifiers write long lists. */
const SPLIT = '.split('
/** The rest of it, with what stands between the items in the second group. */
const BETWEEN = /\s*(["'`])((?:(?!\1).){1,4})\1\s*\)/y
/** The texts of longer lists are left out, in characters. */
const LONGEST = 20_000

/**
 * The lists that code makes of one text, without what is between their items, so that pieces stand beside each other.
 *
 * @param text one character, up to U+00FF, for each byte
 * @returns all of them, with NUL between; empty where there are none
 */
export function joinSplitLists(text: string): string {
  const lists: string[] = []
  // Most code has none, and what calls it stands behind its text: so nothing else is read.
  for (let at = text.indexOf(SPLIT); at >= 0; at = text.indexOf(SPLIT, at + SPLIT.length)) {
    BETWEEN.lastIndex = at + SPLIT.length
    const between = BETWEEN.exec(text)?.[2]
    const list = between === undefined ? null : readListText(text, at)
    if (list !== null) lists.push(list.replaceAll(between!, ''))
  }
  return lists.join('\0')
}

/** The text of a literal that ends before a place, blanks aside; `null` where none does. */
function readListText(text: string, place: number): string | null {
  let end = place - 1
  while (end >= 0 && place - end <= LONGEST && isBlank(text.charCodeAt(end))) end--
  const quote = text[end]
  if (quote !== '"' && quote !== "'" && quote !== '`') return null
  let start = text.lastIndexOf(quote, end - 1)
  while (start >= 0 && isEscaped(text, start) && end - start <= LONGEST) start = text.lastIndexOf(quote, start - 1)
  return start < 0 || end - start > LONGEST ? null : text.slice(start + 1, end)
}

const isBlank = (code: number) => code === 32 || (code >= 9 && code <= 13) || code === 0xa0

/** True behind an odd number of backslashes. */
function isEscaped(text: string, at: number): boolean {
  let first = at
  while (first > 0 && text[first - 1] === '\\') first--
  return (at - first) % 2 === 1
}
