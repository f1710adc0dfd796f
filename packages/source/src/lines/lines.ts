import type { Language } from '../language.ts'
import type { Source, SourceLiteral } from '../source.ts'
import { findMultilineKeys } from './keys.ts'
import { findReads, readPatterns } from './reads.ts'

/** A language that is read line by line. */
export interface LineLanguage {
  readonly name: string
  /** The paths of its files. */
  readonly files: RegExp
  /** What begins a comment to the end of the line. */
  readonly comment: RegExp
  /** True where values stand without quotes too: no filter by quotes is of use then. */
  readonly isBare?: boolean
  /** More values of a line, which tell more than what stands in quotes. */
  readonly valuesOn?: (line: string) => Iterable<LineValue>
  /** How it reads variables: patterns whose first group is the name; `NAME` stands for a name in quotes. None for data. */
  readonly reads: readonly string[]
}

/** Makes a language of how it reads variables and writes comments; what gives a value a name is the same in all of them. */
export function readByLines({ name, files, comment, reads, isBare = false, valuesOn }: LineLanguage): Language {
  const patterns = readPatterns(reads)
  return {
    name,
    files,
    isPrefiltered: patterns.length === 0 && !isBare,
    mayBeMinified: false,
    read: (text, file) => readLines(text, file, patterns, comment, valuesOn),
  }
}

/** `name = "value"`, `name: 'value'`, `name => "value"`, `name := "value"`, `ENV NAME=value`, `"name": "value"`. */
const ASSIGNMENT =
  /(?:^|[\s{,(;[>])(?:export\s+|ENV\s+|ARG\s+|const\s+|var\s+|let\s+|define\(\s*|set\s+:)?['"]?\$?([A-Za-z_][\w.-]*)['"]?\]?(?:\s*:\s*&?(?:'static\s+)?[A-Za-z]\w*(?=\s*=))?\s*(?:=>|:=|=|:)\s*[[(]?\s*(?:(?:\[\]byte|bytes|str|String)\(\s*|[bruf](?=["']))?(["'])((?:(?!\2)[^\\]|\\.){4,})\2/g
/** A name and its value as arguments: `define('NAME', 'value')`, `set :name, 'value'`. */
const PAIR =
  /(?:\b(?:set|get|put|add|append|define|register|option|config|env|getenv|setenv|header|default)\w*\(\s*["']|\bset\s+:)([A-Za-z_][\w.-]*)["']?\s*,\s*(["'])((?:(?!\2)[^\\]|\\.){4,})\2/gi
/** Values without quotes, as in YAML, shell and Dockerfiles. */
const BARE_ASSIGNMENT =
  /^\s*(?:export\s+|ENV\s+|ARG\s+|-\s+)?([A-Za-z_][\w.-]*)\s*[:?+]?[=:]\s*([^\s"'#=][^\s#]{3,})\s*(?:#.*)?$/
/** A flag with its default: `flag.String("addr", ":4100", ...)`, `add_argument('--port', default=4100)`. */
const FLAG =
  /(?:\bflag\.\w+\(\s*(?:&[\w.]+\s*,\s*)?|\badd_argument\(\s*(?:["']-\w["']\s*,\s*)?|\boption\(\s*)["']-{0,2}([A-Za-z][\w-]*)["']\s*,\s*(?:[^)]*?\bdefault\s*=\s*)?(?:(["'`])((?:(?!\2)[^\\]|\\.)*)\2|(\d{2,5})\b)/g
/** An address that a script asks for. */
const FETCHED = /\b(curl|wget)\b[^|;\n]*?\s["']?((?:https?|wss?):\/\/[^\s"'`$|;&)]+)/g
/** Any text in quotes. */
const QUOTED_TEXT = /(["'`])((?:(?!\1)[^\\]|\\.)*)\1/g
/** A header with a key in it, wherever it is written (RFC 9110, section 11.6.2). */
export const AUTHORIZATION = /\bAuthorization['"]?\s*[:=,]\s*['"]?(?:Bearer|Basic|Token)\s+([\w.+/=-]{8,})/gi
/** A call of a listening function with a number in it, or a number given to a port. */
const LISTEN =
  /(?:\b(?:listen|ListenAndServe|run|bind)\(.*?\b(?:port\s*=\s*)?|(?:\b|_)port['"]?\s*(?:=>|:=|=|:|,)\s*['"]?)(\d{2,5})\b/i

function readLines(
  text: string,
  file: string,
  patterns: readonly RegExp[],
  comment: RegExp,
  valuesOn: LineLanguage['valuesOn'],
): Source {
  const literals: SourceLiteral[] = []
  let offset = 0
  for (const [index, whole] of text.split('\n').entries()) {
    const line = whole.length > 2000 ? '' : code(whole, comment)
    const place = (at: number) => ({ file, line: index + 1, column: at + 1 })
    for (const { at, length, ...found } of findValues(line, valuesOn?.(line) ?? [])) {
      literals.push({ ...place(at), variable: null, ...found, start: offset + at, end: offset + at + length })
    }
    offset += whole.length + 1
  }
  const keys = [...findMultilineKeys(text, file)]
  const isOwn = (each: SourceLiteral) => !keys.some(({ start, end }) => each.start < end && start < each.end)
  const { reads, fallbacks } = findReads(text, file, patterns, (line) => code(line, comment))
  return { literals: [...literals.filter(isOwn), ...keys], reads, fallbacks }
}

/** A value on a line: where it stands and what it is given to. */
export interface LineValue extends Pick<SourceLiteral, 'value' | 'names' | 'callee' | 'form'> {
  /** The variable that it stands in for, if any. */
  readonly variable?: string
  readonly at: number
  readonly length: number
}

/** The values on a line, each once: what tells most about one comes first. */
function findValues(line: string, first: Iterable<LineValue>): readonly LineValue[] {
  const found: LineValue[] = []
  const add = (each: LineValue) => {
    if (!found.some(({ at, length }) => each.at < at + length && at < each.at + each.length)) found.push(each)
  }
  for (const [whole, value] of line.matchAll(AUTHORIZATION)) {
    const at = line.indexOf(whole) + whole.length - value!.length
    add({ at, length: value!.length, value: value!, names: ['authorization'], callee: null, form: 'text' })
  }
  for (const each of [...first, ...findFlags(line), ...findFetched(line)]) add(each)
  for (const { 0: whole, 1: name, 3: value, index } of [...line.matchAll(PAIR), ...line.matchAll(ASSIGNMENT)]) {
    const length = value!.length + 2
    const at = index + whole.length - length
    add({ ...readQuoted(value!), at, length, names: [name!], callee: findCallee(line, at) })
  }
  const listen = LISTEN.exec(line)
  if (listen !== null) {
    const value = listen[1]!
    add({
      at: listen.index + listen[0].length - value.length,
      length: value.length,
      value,
      names: [],
      callee: 'listen',
      form: 'number',
    })
  }
  for (const { 2: value, index: at } of line.matchAll(QUOTED_TEXT)) {
    // What is followed by a colon is a name.
    if (value!.length < 4 || /^\s*:/.test(line.slice(at + value!.length + 2))) continue
    add({ ...readQuoted(value!), at, length: value!.length + 2, names: [], callee: findCallee(line, at) })
  }
  const bare = BARE_ASSIGNMENT.exec(line)
  if (bare !== null) {
    const [whole, name, value] = bare as unknown as [string, string, string]
    const form = /^\d+$/.test(value) ? 'number' : 'text'
    const at = line.indexOf(value, whole.indexOf(name) + name.length)
    add({ at, length: value.length, value, names: [name], callee: null, form })
  }
  return found
}

/** Flags with their defaults. */
function* findFlags(line: string): Generator<LineValue> {
  for (const { 0: whole, 1: name, 3: text, 4: number, index } of line.matchAll(FLAG)) {
    const length = number === undefined ? text!.length + 2 : number.length
    const value = number === undefined ? readQuoted(text!) : { value: number, form: 'number' as const }
    yield { ...value, at: index + whole.length - length, length, names: [name!.replaceAll('-', '_')], callee: null }
  }
}

/** Addresses that a script asks for. */
function* findFetched(line: string): Generator<LineValue> {
  for (const { 0: whole, 1: program, 2: value, index } of line.matchAll(FETCHED)) {
    const { length } = value!
    const end = index + whole.length
    const form = line[end] === '$' ? 'template part' : 'text'
    yield { at: end - length, length, value: value!, names: [], callee: program!, form }
  }
}

/** The function among whose arguments an offset lies. */
function findCallee(line: string, at: number): string | null {
  let open = 0
  for (let index = at - 1; index >= 0 && index > at - 400; index--) {
    if (line[index] === ')') open++
    else if (line[index] === '(' && open-- === 0) {
      const name = /([A-Za-z_][\w.]*)\s*$/.exec(line.slice(0, index))?.[1]
      // What signs and reads tokens takes a key, whatever the language calls it.
      if (name === undefined) return null
      return /\bjwt\.(en|de)code$/i.test(name) ? 'sign' : name.split('.').at(-1)!
    }
  }
  return null
}

function readQuoted(text: string): { value: string; form: 'text' } {
  return { value: text.replace(/\\(["'\\])/g, '$1'), form: 'text' }
}

/** A line up to where a comment begins; a quote before it may hold the same characters. */
export function code(line: string, comment: RegExp): string {
  const found = comment.exec(line)
  if (found === null) return line
  const before = line.slice(0, found.index)
  return (before.match(/["']/g)?.length ?? 0) % 2 === 0 ? before : line
}
