import type { Source, SourceLiteral, SourceRead } from './source.ts'

/** How a language reads variables of the environment. */
interface Language {
  readonly endings: RegExp
  readonly reads: readonly RegExp[]
  /** What begins a comment to the end of the line. */
  readonly comment: RegExp
}

const NAME = '([A-Za-z_][A-Za-z0-9_]*)'
const QUOTED = `['"\`]${NAME}['"\`]`

const LANGUAGES: readonly Language[] = [
  {
    endings: /\.pyi?$/,
    comment: /#/,
    reads: [`\\benviron(?:\\.get\\(|\\[)\\s*${QUOTED}`, `\\bgetenv\\(\\s*${QUOTED}`].map(global),
  },
  { endings: /\.go$/, comment: /\/\//, reads: [`\\bos\\.(?:Getenv|LookupEnv)\\(\\s*${QUOTED}`].map(global) },
  {
    endings: /\.php$/,
    comment: /\/\/|#/,
    reads: [`\\bgetenv\\(\\s*${QUOTED}`, `\\$_(?:ENV|SERVER)\\[\\s*${QUOTED}`, `\\benv\\(\\s*${QUOTED}`].map(global),
  },
  {
    endings: /\.(rb|rake|ru)$|(^|\/)(Rakefile|Gemfile)$/,
    comment: /#/,
    reads: [`\\bENV(?:\\.fetch\\(|\\[)\\s*${QUOTED}`].map(global),
  },
  { endings: /\.(sh|bash|zsh)$/, comment: /(?:^|\s)#/, reads: ['\\$\\{?([A-Z][A-Z0-9_]{2,})\\b'].map(global) },
  { endings: /\.ya?ml$/, comment: /(?:^|\s)#/, reads: ['(?<!\\$)\\$\\{([A-Z][A-Z0-9_]*)\\b'].map(global) },
  {
    endings: /(^|\/|\.)(Docker|Container)file(\.[\w-]+)?$/i,
    comment: /^\s*#/,
    reads: ['^\\s*ARG\\s+([A-Z][A-Z0-9_]*)', '(?<!\\\\)\\$\\{?([A-Z][A-Z0-9_]*)\\b'].map(global),
  },
  { endings: /\.(java|kt|kts|scala)$/, comment: /\/\//, reads: [`\\bgetenv\\(\\s*${QUOTED}`].map(global) },
  { endings: /\.rs$/, comment: /\/\//, reads: [`\\benv::var(?:_os)?\\(\\s*${QUOTED}`].map(global) },
  { endings: /\.cs$/, comment: /\/\//, reads: [`\\bGetEnvironmentVariable\\(\\s*${QUOTED}`].map(global) },
  { endings: /\.(json|toml|ini|cfg|conf|properties)$/, comment: /^\s*[#;]/, reads: [] },
]

/** `name = "value"`, `name: 'value'`, `name => "value"`, `name := "value"`, `ENV NAME=value`, `"name": "value"`. */
const ASSIGNMENT =
  /(?:^|[\s{,(;])(?:export\s+|ENV\s+|ARG\s+|const\s+|var\s+|let\s+|define\(\s*|set\s+:)?['"]?\$?([A-Za-z_][\w.-]*)['"]?\s*(?:=>|:=|=|:|,)\s*(["'])((?:(?!\2)[^\\]|\\.){4,})\2/g
/** Values without quotes, as in YAML, shell and Dockerfiles. */
const BARE_ASSIGNMENT =
  /^\s*(?:export\s+|ENV\s+|ARG\s+|-\s+)?([A-Za-z_][\w.-]*)\s*[=:]\s*([^\s"'#][^\s#]{3,})\s*(?:#.*)?$/
/** A call of a listening function with a number in it, or a number given to a port. */
const LISTEN =
  /\b(?:(?:listen|ListenAndServe|run|bind)\(.*?\b(?:port\s*=\s*)?|port['"]?\s*(?:=>|:=|=|:|,)\s*['"]?)(\d{2,5})\b/i

function global(pattern: string): RegExp {
  return new RegExp(pattern, 'g')
}

/** The language of a file by its name; `null` for one that is not read by lines. */
export function languageOf(file: string): Language | null {
  return LANGUAGES.find(({ endings }) => endings.test(file)) ?? null
}

/**
 * Reads a source file line by line, in the languages that no parser here knows: values with the names they are given
 * to, and reads of variables.
 */
export function readLines(text: string, file: string, { reads: patterns, comment }: Language): Source {
  const literals: SourceLiteral[] = []
  const reads: SourceRead[] = []
  let offset = 0
  for (const [index, whole] of text.split('\n').entries()) {
    const line = whole.length > 2000 ? '' : code(whole, comment)
    const place = (at: number) => ({ file, line: index + 1, column: at + 1 })
    for (const pattern of patterns) {
      for (const match of line.matchAll(pattern)) reads.push({ name: match[1]!, ...place(match.index) })
    }
    const add = (
      at: number,
      value: string,
      names: string[],
      callee: string | null,
      form: SourceLiteral['form'],
      length: number,
    ) =>
      literals.push({
        ...place(at),
        value,
        form,
        names,
        callee,
        variable: null,
        start: offset + at,
        end: offset + at + length,
      })
    let found = false
    for (const match of line.matchAll(ASSIGNMENT)) {
      const value = match[3]!.replace(/\\(["'\\])/g, '$1')
      const at = match.index + match[0].length - match[3]!.length - 2
      add(at, value, [match[1]!], null, 'text', match[3]!.length + 2)
      found = true
    }
    const bare = found ? null : BARE_ASSIGNMENT.exec(line)
    if (bare !== null) {
      const number = /^\d+$/.test(bare[2]!)
      add(
        line.indexOf(bare[2]!, bare[0].indexOf(bare[1]!) + bare[1]!.length),
        bare[2]!,
        [bare[1]!],
        null,
        number ? 'number' : 'text',
        bare[2]!.length,
      )
    }
    const listen = LISTEN.exec(line)
    if (listen !== null && bare === null && !found)
      add(line.lastIndexOf(listen[1]!), listen[1]!, [], 'listen', 'number', listen[1]!.length)
    offset += whole.length + 1
  }
  return { literals, reads }
}

/** A line up to where a comment begins; a quote before it may hold the same characters. */
function code(line: string, comment: RegExp): string {
  const found = comment.exec(line)
  if (found === null) return line
  const before = line.slice(0, found.index)
  return (before.match(/["']/g)?.length ?? 0) % 2 === 0 ? before : line
}
