import type { Declaration } from '../definition/definition.ts'

/** What is odd about a value that is allowed, and probably a slip. */
export function findSuspiciousValue(
  { kind, options }: Declaration,
  text: string,
): 'value-is-word' | 'value-in-quotes' | 'value-has-blanks' | null {
  // A rule of the definition has the last word.
  if (kind.type.isText !== true || options.pattern !== undefined || kind.values !== undefined) return null
  if (text.length <= 9 && WORDS_FOR_NOTHING.has(text)) return 'value-is-word'
  const [first, last] = [text.charCodeAt(0), text.charCodeAt(text.length - 1)]
  if (first === last && text.length > 1 && (first === 34 || first === 39 || first === 96)) return 'value-in-quotes'
  // Text of several lines, such as a key, ends in a line end by custom.
  return (isBlank(first) || isBlank(last)) && !/\S\s*\n\s*\S/.test(text) ? 'value-has-blanks' : null
}

/** What programs of different languages write where they have no value. */
const WORDS_FOR_NOTHING = new Set([
  'null',
  'Null',
  'NULL',
  'undefined',
  'UNDEFINED',
  'None',
  'nil',
  'NIL',
  'NaN',
  'nan',
  '<nil>',
  '(null)',
])

const isBlank = (character: number) => character === 32 || (character >= 9 && character <= 13) || character === 160
