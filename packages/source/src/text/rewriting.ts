import type { TextEdit } from '@mappa/core/text/edits'
import type { ObstacleCode } from '../obstacles.ts'
import type { FileSurroundings, ReadVariable, Replaceable, Replacement, Rewriting } from '../rewriting.ts'
import type { SourceLiteral } from '../source.ts'
import { findRawOccurrences } from './raw-occurrences.ts'

/** A value in a file that is changed as text, without the quotes around it. */
export interface TextPlace {
  readonly text: string
  readonly literal: SourceLiteral
  readonly start: number
  readonly end: number
  /** True where the place is all of the value. */
  readonly isWhole: boolean
  readonly around: FileSurroundings
}

/** How a language that is no program reads variables. */
export interface TextRewriting extends Pick<Rewriting, 'canRead' | 'complete' | 'start' | 'faults'> {
  readonly literals: (text: string, file: string) => readonly SourceLiteral[]
  /** True where a text of several lines can hold the reading of a variable. */
  readonly readsInOpenTexts?: boolean
  /** What keeps a value where it stands. */
  readonly obstacle: (place: TextPlace) => ObstacleCode | null
  readonly replace: (variable: ReadVariable, place: TextPlace) => readonly TextEdit[] | ObstacleCode | null
}

/** Makes the rewriting of a language whose files are changed as text. */
export function rewriteText({
  literals,
  readsInOpenTexts = false,
  obstacle,
  replace,
  ...rest
}: TextRewriting): Rewriting {
  const findObstacle = (place: TextPlace) =>
    place.literal.isOpen === true && !readsInOpenTexts ? 'heredoc' : obstacle(place)
  return {
    ...rest,
    find(text, file, around, secrets) {
      const own = literals(text, file)
      return [...own, ...findRawOccurrences(text, file, secrets, own)].map((each) =>
        replaceable(text, each, around, findObstacle, replace),
      )
    },
  }
}

function replaceable(
  text: string,
  literal: SourceLiteral,
  around: FileSurroundings,
  obstacle: TextRewriting['obstacle'],
  replace: TextRewriting['replace'],
): Replaceable {
  const { line, column, start, end, value, form, variable } = literal
  const isQuoted = /^(["'])[\s\S]*\1$/.test(text.slice(start, end)) && end - start > 1
  const whole: TextPlace = {
    text,
    literal,
    start: isQuoted ? start + 1 : start,
    end: isQuoted ? end - 1 : end,
    isWhole: true,
    around,
  }
  return {
    line,
    column,
    start,
    end,
    value,
    form: form === 'number' ? 'number' : 'text',
    variable,
    obstacle: obstacle(whole),
    replace: (wanted): Replacement => replace(wanted, whole),
    replacePart: (wanted, from, to): Replacement => replace(wanted, { ...whole, start: from, end: to, isWhole: false }),
  }
}
