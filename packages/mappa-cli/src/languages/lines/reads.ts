import type { Source, SourceLiteral, SourceRead, TakenAs } from '../source.ts'

const QUOTED_NAME = `['"\`]([A-Za-z_][A-Za-z0-9_]*)['"\`]`

/** Reads that fail where there is no value. All others give nothing, or something else. */
const NEEDED = /\benviron\[|\bENV\.fetch\(|\benv::var\(/
/** What a shell does without a value: `${DOME_KEY:?}` ends the script. */
const NEEDED_AFTER = /^:?\?/
/** What hands over another value, behind the name: `, "info")`, `) or "info"`, `] ?? 'info'`, `).unwrap_or("info".into())`. */
const INSTEAD =
  /^\s*(?:,\s*|[\])]\s*(?:\?\?|\?:|\|\||\bor\b|\.unwrap_or(?:_else)?\(\s*(?:\|_?\w*\|\s*)?(?:String::from\()?)\s*)(?:(["'])((?:(?!\1)[^\\\n]|\\.)*)\1|(-?\d+(?:\.\d+)?|true|false)\b)/i
/** The same in a shell: `${LEVEL:-info}`. */
const INSTEAD_IN_SHELL = /^:?[-=]([^}'"$`\\\s]+)\}/
/** Functions around a read that make something else of the text. */
const MADE: readonly (readonly [RegExp, TakenAs])[] = [
  [
    /\b(?:int|Integer|intval|Atoi|parseInt|ParseInt|valueOf|Int32\.Parse|int\.Parse)\(\s*(?:\w+\.)*$|\(int\)\s*$/,
    'integer',
  ],
  [/\b(?:float|Float|floatval|ParseFloat|parseDouble|double\.Parse)\(\s*(?:\w+\.)*$|\(float\)\s*$/, 'number'],
  [/\b(?:ParseBool|parseBoolean|bool\.Parse)\(\s*(?:\w+\.)*$/, 'boolean'],
]
/** The same behind it. */
const MADE_AFTER: readonly (readonly [RegExp, TakenAs])[] = [
  [
    /^[^;#\n]{0,60}?[\])]\s*(?:\.(?:lower|casefold|downcase|strip|toLowerCase|ToLower)(?:\(\))?)*\s*={2,3}\s*["']true["']/i,
    'boolean',
  ],
  [/^[^;#\n]{0,60}?[\])]\s*[?!]*\.(?:to_i|toInt|toLong)\b/, 'integer'],
  [/^[^;#\n]{0,60}?[\])]\s*[?!]*\.(?:to_f|toDouble|toFloat)\b/, 'number'],
]

/** How a language reads variables, as patterns whose first group is the name; `NAME` stands for a name in quotes. */
export function readPatterns(reads: readonly string[]): readonly RegExp[] {
  return reads.map((pattern) => new RegExp(pattern.replaceAll('NAME', QUOTED_NAME), 'g'))
}

/**
 * The reads of variables in a text, line by line, and what the code takes where they have no value.
 *
 * @param patterns of {@link readPatterns}
 * @param code a line without its comments
 */
export function readsIn(
  text: string,
  file: string,
  patterns: readonly RegExp[],
  code: (line: string) => string,
): Required<Pick<Source, 'reads' | 'fallbacks'>> {
  const reads: SourceRead[] = []
  const fallbacks: SourceLiteral[] = []
  if (!patterns.some((each) => text.search(each) >= 0)) return { reads, fallbacks }
  let offset = 0
  for (const [index, whole] of text.split('\n').entries()) {
    const line = whole.length > 2000 ? '' : code(whole)
    const place = (at: number) => ({ file, line: index + 1, column: at + 1 })
    for (const pattern of patterns)
      for (const match of line.matchAll(pattern)) {
        const end = match.index + match[0].length
        const found = fallbackIn(line, end)
        reads.push({
          ...place(match.index),
          name: match[1]!,
          built: false,
          ...useOn(line, match.index, end, found !== null),
        })
        if (found === null) continue
        const { at, length, ...value } = found
        const start = offset + at
        fallbacks.push({
          ...place(at),
          ...value,
          names: [],
          callee: null,
          variable: match[1]!,
          start,
          end: start + length,
        })
      }
    offset += whole.length + 1
  }
  return { reads, fallbacks }
}

function useOn(line: string, at: number, end: number, hasFallback: boolean): Pick<SourceRead, 'needed' | 'takenAs'> {
  const [before, after] = [line.slice(0, at), line.slice(end)]
  const takenAs = MADE.find(([each]) => each.test(before)) ?? MADE_AFTER.find(([each]) => each.test(after))
  const needed = NEEDED.test(line.slice(at, end)) || NEEDED_AFTER.test(after)
  return { needed: needed && !hasFallback, ...(takenAs === undefined ? {} : { takenAs: takenAs[1] }) }
}

/** The fixed value behind a read that ends at an offset. */
function fallbackIn(
  line: string,
  end: number,
): (Pick<SourceLiteral, 'value' | 'form'> & { at: number; length: number }) | null {
  const after = line.slice(end)
  const found = INSTEAD.exec(after)
  if (found !== null) {
    const [whole, quote, text, word] = found
    const length = quote === undefined ? word!.length : text!.length + 2
    const value = quote === undefined ? word!.toLowerCase() : text!.replace(/\\(["'\\])/g, '$1')
    return { value, form: quote === undefined ? 'number' : 'text', at: end + whole.length - length, length }
  }
  const inShell = INSTEAD_IN_SHELL.exec(after)
  if (inShell === null) return null
  return {
    value: inShell[1]!,
    form: 'text',
    at: end + inShell[0].length - 1 - inShell[1]!.length,
    length: inShell[1]!.length,
  }
}
