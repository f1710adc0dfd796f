import { readFromCall } from '../called-reads.ts'
import type { Source, SourceLiteral, SourceRead, TakenAs } from '../source.ts'

const QUOTED_NAME = `['"\`]([A-Za-z_][A-Za-z0-9_]*)['"\`]`

/** Reads that fail where there is no value. All others give nothing, or something else. */
const NEEDED = /^(?!ENV\b)\w+\[|\bENV\.fetch\(|\benv::var\(/
/** A read as shells have it, of which something may follow the name. */
const IN_BRACES = /\$\{/
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
  [/\bexplode\(\s*["']\s*,\s*["']\s*,\s*$|\bstrings\.Split\(\s*(?:\w+\.)*$/, 'list'],
]
/** The same behind it. */
const MADE_AFTER: readonly (readonly [RegExp, TakenAs])[] = [
  [
    /^[^;#\n]{0,60}?[\])]\s*(?:\.(?:lower|casefold|downcase|strip|toLowerCase|ToLower)(?:\(\))?)*\s*={2,3}\s*["']true["']/i,
    'boolean',
  ],
  [/^[^;#\n]{0,60}?[\])]\s*[?!]*\.(?:to_i|toInt|toLong)\b/, 'integer'],
  [/^[^;#\n]{0,60}?[\])]\s*[?!]*\.(?:to_f|toDouble|toFloat)\b/, 'number'],
  [/^[^;#\n]{0,60}?[\])]\s*[?!]*\.split\(\s*["']\s*,\s*["']\s*\)/i, 'list'],
]

/** A call of a function whose name says that it reads a variable, which comes first: `getEnv("DOME_PORT", "4100")`. */
const CALLED = /(?<!\w)((?:\w+\.|\w+->|\w+::)?\w*env\w*(?:\.\w+)?)\s*\(\s*["'`]([A-Z][A-Z0-9_]+)["'`](\s*,)?/gi
/** What a file calls its environment: `env = os.environ`. */
const ALIAS = /^[ \t]*(\w+)[ \t]*=[ \t]*(?:os\.)?environ[ \t]*(?:#.*)?$/m

/** What asks whether there is a value, in a condition; what the code asks for first, it does without. */
const ASKED = readPatterns([
  'NAME\\s+in\\s+(?:os\\.)?environ\\b',
  '\\b(?:if|elif|and|or)\\s+\\(?(?:os\\.)?(?:environ\\.get|getenv)\\(\\s*NAME\\s*\\)\\s*\\)?\\s*(?::|and\\b|or\\b|else\\b)',
  '(?<![!\\w])isset\\(\\s*\\$_(?:ENV|SERVER)\\[\\s*NAME',
  '!\\s*empty\\(\\s*\\$_(?:ENV|SERVER)\\[\\s*NAME',
  '\\bENV\\.(?:key|has_key|include|member)\\?\\(?\\s*NAME',
  '\\bif\\s+ENV\\[\\s*NAME\\s*\\]\\s*(?:$|&&|then\\b)',
  '\\bif let Ok\\(\\w+\\)\\s*=\\s*(?:std::)?env::var\\(\\s*NAME',
])

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
export function findReads(
  text: string,
  file: string,
  patterns: readonly RegExp[],
  code: (line: string) => string,
): Required<Pick<Source, 'reads' | 'fallbacks'>> {
  const reads: SourceRead[] = []
  const fallbacks: SourceLiteral[] = []
  if (!readsVariables(text, patterns)) return { reads, fallbacks }
  const alias = ALIAS.exec(text)?.[1]
  const all = alias === undefined ? patterns : [...patterns, ...readPatterns([`\\b${alias}(?:\\.get\\(|\\[)\\s*NAME`])]
  let offset = 0
  for (const [index, whole] of text.split('\n').entries()) {
    const line = whole.length > 2000 ? '' : code(whole)
    const place = (at: number) => ({ file, line: index + 1, column: at + 1 })
    for (const { name, at, end, ...own } of findLineReads(line, all)) {
      const found = findFallback(line, at, end)
      const use = findUse(line, at, end, found !== null)
      reads.push({ ...place(at), name, built: false, ...use, ...own, needed: own.needed ?? use.needed })
      if (found === null) continue
      const { at: first, length, ...value } = found
      const start = offset + first
      fallbacks.push({ ...place(first), ...value, names: [], callee: null, variable: name, start, end: start + length })
    }
    offset += whole.length + 1
  }
  const asked = new Set(
    ASKED.flatMap((pattern) => [...text.matchAll(new RegExp(pattern, 'gm'))].map(([, name]) => name)),
  )
  return { reads: reads.map((each) => (asked.has(each.name) ? { ...each, needed: false } : each)), fallbacks }
}

/**
 * True for a text that may read variables.
 *
 * @param patterns of {@link readPatterns}
 */
export function readsVariables(text: string, patterns: readonly RegExp[]): boolean {
  return patterns.some((each) => text.search(each) >= 0) || text.search(CALLED) >= 0 || ALIAS.test(text)
}

interface ReadOnLine extends Partial<Pick<SourceRead, 'needed' | 'takenAs'>> {
  readonly name: string
  readonly at: number
  /** Behind the name and its quotes. */
  readonly end: number
}

function findLineReads(line: string, patterns: readonly RegExp[]): readonly ReadOnLine[] {
  const found: ReadOnLine[] = []
  for (const pattern of patterns)
    for (const match of line.matchAll(pattern))
      found.push({ name: match[1]!, at: match.index, end: match.index + match[0].length })
  for (const { 0: whole, 1: callee, 2: name, 3: comma = '', index } of line.matchAll(CALLED)) {
    const end = index + whole.length - comma.length
    const called = found.some((each) => each.at < end && end <= each.end)
      ? null
      : readFromCall(callee!.replace(/->|::/, '.'), name!, comma !== '')
    if (called === null) continue
    const { needed, takenAs } = called
    found.push({ name: name!, at: index, end, needed, ...(takenAs === null ? {} : { takenAs }) })
  }
  return found
}

function findUse(line: string, at: number, end: number, hasFallback: boolean): Pick<SourceRead, 'needed' | 'takenAs'> {
  const [before, after] = [line.slice(0, at), line.slice(end)]
  const takenAs = MADE.find(([each]) => each.test(before)) ?? MADE_AFTER.find(([each]) => each.test(after))
  const read = line.slice(at, end)
  const needed = NEEDED.test(read) || (IN_BRACES.test(read) && NEEDED_AFTER.test(after))
  return { needed: needed && !hasFallback, ...(takenAs === undefined ? {} : { takenAs: takenAs[1] }) }
}

/** The fixed value behind a read: of a name in quotes, or of a shell in braces. */
function findFallback(
  line: string,
  at: number,
  end: number,
): (Pick<SourceLiteral, 'value' | 'form'> & { at: number; length: number }) | null {
  const after = line.slice(end)
  const read = line.slice(at, end)
  const found = /["'`]/.test(read) ? INSTEAD.exec(after) : null
  if (found !== null) {
    const [whole, quote, text, word] = found
    const length = quote === undefined ? word!.length : text!.length + 2
    const value = quote === undefined ? word!.toLowerCase() : text!.replace(/\\(["'\\])/g, '$1')
    return { value, form: quote === undefined ? 'number' : 'text', at: end + whole.length - length, length }
  }
  const inShell = IN_BRACES.test(read) ? INSTEAD_IN_SHELL.exec(after) : null
  if (inShell === null) return null
  return {
    value: inShell[1]!,
    form: 'text',
    at: end + inShell[0].length - 1 - inShell[1]!.length,
    length: inShell[1]!.length,
  }
}
