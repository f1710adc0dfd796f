import { makeLocator } from '@mappa/core/text/locator'
import type { SourceLiteral } from '../source.ts'

/** Where secrets stand in a text as they are, apart from the values that are known. */
export function findRawOccurrences(
  text: string,
  file: string,
  secrets: readonly string[],
  known: readonly SourceLiteral[],
): readonly SourceLiteral[] {
  const placeOf = makeLocator(text)
  const found: SourceLiteral[] = []
  for (const value of secrets)
    for (let start = text.indexOf(value); start >= 0; start = text.indexOf(value, start + value.length)) {
      const end = start + value.length
      if (known.some((each) => each.start <= start && end <= each.end)) continue
      found.push({ file, ...placeOf(start), value, form: 'text', names: [], callee: null, variable: null, start, end })
    }
  return found
}
