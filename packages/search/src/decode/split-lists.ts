/** A text that code takes apart: `'a.b.c'.split('.')`, as minifiers write long lists. */
const SPLIT = /(["'`])((?:\\[\s\S]|(?!\1)[^\\]){1,20000})\1\s*\.split\(\s*(["'`])((?:(?!\3).){1,4})\3\s*\)/g

/**
 * The lists that code makes of one text, without what is between their items, so that pieces stand beside each other.
 *
 * @param text one character, up to U+00FF, for each byte
 * @returns all of them, with NUL between; empty where there are none
 */
export function joinSplitLists(text: string): string {
  // Most code has none.
  if (!text.includes('.split(')) return ''
  return [...text.matchAll(SPLIT)].map(([, , list, , between]) => list!.replaceAll(between!, '')).join('\0')
}
