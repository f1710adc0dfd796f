const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789'
const LENGTH = 3

/** Gives each value a short mark: equal values have the same one. */
export type Marks = (meaning: string) => string

/**
 * Makes marks that are drawn by lot in every run, so that nothing about a value can be looked up by its mark, and none can be recognized
 * later.
 */
export function makeMarks(): Marks {
  const byMeaning = new Map<string, string>()
  const given = new Set<string>()
  return (meaning) => {
    const known = byMeaning.get(meaning)
    if (known !== undefined) return known
    let mark = ''
    do mark = drawMark()
    while (given.has(mark))
    given.add(mark)
    byMeaning.set(meaning, mark)
    return mark
  }
}

/** Letters by lot. Works in browsers as well as in Node. */
function drawMark(): string {
  // 31 letters of 256: the last few values are left out, so that each letter is as likely as any other.
  const fair = 256 - (256 % LETTERS.length)
  let text = ''
  while (text.length < LENGTH) {
    const [byte = 0] = crypto.getRandomValues(new Uint8Array(1))
    if (byte < fair) text += LETTERS[byte % LETTERS.length]
  }
  return text
}
