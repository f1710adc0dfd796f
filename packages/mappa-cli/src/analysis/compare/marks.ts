import { randomInt } from 'node:crypto'

const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789'
const LENGTH = 3

/** Gives each value a short mark: equal values have the same one. */
export type Marks = (meaning: string) => string

/**
 * Makes marks that are drawn by lot in every run, so that nothing about a value can be looked up by its mark, and none can be recognized
 * later.
 */
export function newMarks(): Marks {
  const byMeaning = new Map<string, string>()
  const given = new Set<string>()
  return (meaning) => {
    const known = byMeaning.get(meaning)
    if (known !== undefined) return known
    let mark = ''
    do mark = Array.from({ length: LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('')
    while (given.has(mark))
    given.add(mark)
    byMeaning.set(meaning, mark)
    return mark
  }
}
