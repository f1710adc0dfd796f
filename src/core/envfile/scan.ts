import type { Problem } from '../problems/problem.ts'
import { problem } from '../problems/problem.ts'
import type { EnvEntry, Quote } from './entry.ts'
import { misreadLine } from './misread.ts'
import { parseTemplate, type Template } from './template.ts'

/** What a text was found to hold. */
export interface Scan {
  readonly entries: readonly EnvEntry[]
  /** The entry that holds for each name: the last one. */
  readonly byName: ReadonlyMap<string, EnvEntry>
  readonly problems: readonly Problem[]
}

const NEWLINE = 10
const RETURN = 13
const TAB = 9
const SPACE = 32
const HASH = 35
const DOLLAR = 36
const DOUBLE = 34
const SINGLE = 39
const BACKSLASH = 92
const BACKTICK = 96
const EQUALS = 61
const OPEN_BRACE = 123
const CLOSE_BRACE = 125

/** Classes of characters, so that the common ones are passed over with one look-up. */
const NAME_START = 1
const NAME_PART = 2
/** Needs a look within a value without quotes: white space, quotes, and what means something else to a shell. */
const STOPS_BARE = 4
const CLASSES = new Uint8Array(65536)
for (const character of 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_') {
  CLASSES[character.charCodeAt(0)] = NAME_START | NAME_PART
}
for (const character of '0123456789') CLASSES[character.charCodeAt(0)] = NAME_PART
for (const character of '\n\r\t #$\\`\'"&;|<>()}') CLASSES[character.charCodeAt(0)]! |= STOPS_BARE

/**
 * Reads the text of an env file from top to bottom. Never throws; what is wrong becomes a problem, and reading
 * goes on with the next line. The time is linear in the length of the text, whatever it holds: an opening
 * quote whose partner is far away is looked for once for each sort of quote, since the next opening quote of
 * the same sort ends the search of the one before.
 *
 * @param text the whole text, which may begin with a byte-order mark
 * @param file the path to name in problems
 */
export function scan(text: string, file: string | null): Scan {
  return new Scanner(text, file).run()
}

class Scanner {
  private readonly text: string
  private readonly file: string | null
  private readonly entries: EnvEntry[] = []
  private readonly problems: Problem[] = []
  /** True where the first line ends in CRLF: a line break within quotes is then read as one line feed. */
  private readonly crlf: boolean
  private at = 0
  private line = 1
  private lineStart = 0
  /** False once a search for the end of a key has met the end of the text. */
  private keyEndAhead = true
  private backslash = -1

  constructor(text: string, file: string | null) {
    this.text = text
    this.file = file
    const firstBreak = text.indexOf('\n')
    this.crlf = firstBreak > 0 && text.charCodeAt(firstBreak - 1) === RETURN
    if (text.charCodeAt(0) === 0xfeff) this.at = this.lineStart = 1
  }

  run(): Scan {
    const { text } = this
    while (this.at < text.length) {
      this.readLine()
      // Each reader leaves off somewhere on the last line it read.
      const end = text.indexOf('\n', this.at)
      if (end < 0) break
      this.at = this.lineStart = end + 1
      this.line++
    }
    return { entries: this.entries, byName: this.lastOfEachName(), problems: this.problems }
  }

  private readLine(): void {
    const { text } = this
    let at = this.skipBlanks(this.at)
    const first = text.charCodeAt(at)
    if (at >= text.length || first === NEWLINE || first === HASH || (first === RETURN && this.endsLine(at))) {
      this.at = at
      return
    }
    let start = at
    at = this.nameEnd(at)
    if (at - start === 6 && text.startsWith('export', start) && isBlank(text.charCodeAt(at))) {
      const exported = this.skipBlanks(at)
      const code = text.charCodeAt(exported)
      if (code !== EQUALS) {
        start = exported
        at = this.nameEnd(exported)
      }
    }
    let equals = at
    if (at > start && isBlank(text.charCodeAt(at))) equals = this.skipBlanks(at)
    if (at === start || text.charCodeAt(equals) !== EQUALS) {
      this.misread(start)
      return
    }
    this.readValue(text.slice(start, at), start, equals)
  }

  private readValue(name: string, start: number, equals: number): void {
    const { text } = this
    const valueStart = this.skipBlanks(equals + 1)
    const code = text.charCodeAt(valueStart)
    const gapAfter = valueStart > equals + 1
    const nothing = valueStart >= text.length || code === NEWLINE || code === RETURN
    if (gapAfter && code === HASH) {
      // `NAME= # why`: the value is empty.
      this.at = equals + 1
      this.add(name, start, equals + 1, equals + 1, '', '', false)
      return
    }
    if (text.charCodeAt(equals - 1) <= SPACE || (gapAfter && !nothing)) {
      this.report('spaces-around-equals', { name }, start)
    }
    if (code === SINGLE) this.readQuoted(name, start, valueStart, "'")
    else if (code === DOUBLE) this.readQuoted(name, start, valueStart, '"')
    else this.readBare(name, start, nothing ? equals + 1 : valueStart)
  }

  private readBare(name: string, start: number, valueStart: number): void {
    const { text } = this
    const length = text.length
    let at = valueStart
    let end = valueStart // behind the last character that is not a blank
    let depth = 0
    let spaced = -1
    let dollar = -1
    let backslash = -1
    let quote = -1
    let shell = -1
    let loneReturn = -1
    for (; at < length; at++) {
      const code = text.charCodeAt(at)
      if ((CLASSES[code]! & STOPS_BARE) === 0) {
        if (spaced < 0 && end < at && depth === 0) spaced = end
        end = at + 1
        continue
      }
      if (code === NEWLINE) break
      if (code === RETURN && this.endsLine(at)) break
      if (code === SPACE || code === TAB) continue
      if (code === HASH && at > end && depth === 0) break
      if (spaced < 0 && end < at && depth === 0) spaced = end
      end = at + 1
      if (code === DOLLAR) {
        if (dollar < 0) dollar = at
        if (text.charCodeAt(at + 1) === OPEN_BRACE) {
          depth++
          end = ++at + 1
        } else if (text.charCodeAt(at + 1) === 40) end = ++at + 1
      } else if (code === BACKSLASH) {
        if (text.charCodeAt(at + 1) === DOLLAR) {
          if (dollar < 0) dollar = at
          end = ++at + 1
        } else if (backslash < 0) backslash = at
      } else if (code === BACKTICK) {
        if (dollar < 0) dollar = at
      } else if (code === CLOSE_BRACE) {
        if (depth > 0) depth--
      } else if (code === SINGLE || code === DOUBLE) {
        if (quote < 0) quote = at
      } else if (code === RETURN) {
        if (loneReturn < 0) loneReturn = at
      } else if (code !== HASH && shell < 0 && depth === 0) shell = at
    }
    this.at = at
    if (spaced >= 0 && text.startsWith('-----BEGIN ', valueStart) && this.passKey(name, start, valueStart, end)) {
      return
    }
    let value: string | Template = text.slice(valueStart, end)
    let broken = false
    if (dollar >= 0) {
      value = parseTemplate(text, valueStart, end, '', this.crlf, (fault) => {
        if (fault.code !== 'dollar-kept') broken = true
        this.report(fault.code, { name, form: 'form' in fault ? fault.form : '' }, fault.at)
      })
    }
    // A command has spaces and brackets of its own; the error about it says all there is to say.
    if (!broken) {
      if (spaced >= 0) this.report('spaces-unquoted', { name }, spaced)
      if (backslash >= 0) this.report('backslash-unquoted', { name }, backslash)
      if (quote >= 0) this.report('quote-in-value', { name }, quote)
      if (shell >= 0) this.report('shell-character', { name, character: text[shell]! }, shell)
      if (loneReturn >= 0) this.report('carriage-return', { name }, loneReturn)
    }
    this.add(name, start, valueStart, end, '', value, broken)
  }

  /** Passes over a key of several lines that has no quotes, so that its lines are not taken for entries. */
  private passKey(name: string, start: number, valueStart: number, lineEnd: number): boolean {
    const { text } = this
    const end = this.keyEndAhead ? text.indexOf('-----END ', valueStart) : -1
    if (end < 0) this.keyEndAhead = false
    if (end < 0 || end < lineEnd) return false
    this.report('key-unquoted', { name }, valueStart)
    this.add(name, start, valueStart, lineEnd, '', '', true)
    this.moveTo(end)
    return true
  }

  private readQuoted(name: string, start: number, open: number, quote: "'" | '"'): void {
    const { text } = this
    const inner = open + 1
    let close = text.indexOf(quote, inner)
    let special = false
    if (quote === '"' && close >= 0) {
      // Only where there is a backslash can a quote be an escaped one.
      const backslash = this.nextBackslash(inner)
      if (backslash < close) {
        special = true
        close = closingQuote(text, backslash)
      }
    }
    if (close < 0 || this.opensAnother(close, open)) {
      this.report('quote-open', { name, quote }, open)
      this.at = open
      this.add(name, start, open, this.lineEnd(open), quote, '', true)
      return
    }
    const opened = this.line
    const place = { line: this.line, lineStart: this.lineStart }
    const manyLines = this.moveTo(close)
    const behind = this.skipBlanks(close + 1)
    const code = text.charCodeAt(behind)
    const clean =
      behind >= text.length ||
      code === NEWLINE ||
      (code === RETURN && this.endsLine(behind)) ||
      (code === HASH && behind > close + 1)
    if (!clean) {
      this.report('text-after-quote', { name, quote, opened: manyLines ? opened : null }, close)
      this.add(name, start, open, close + 1, quote, '', true, place)
      return
    }
    let value: string | Template
    let broken = false
    if (quote === '"' && (special || hasDollar(text, inner, close))) {
      value = parseTemplate(text, inner, close, '"', this.crlf, (fault) => {
        if (fault.code !== 'dollar-kept') broken = true
        const within = this.placeOf(fault.at, place)
        this.problems.push(
          problem(fault.code, { name, form: 'form' in fault ? fault.form : '' } as never, {
            file: this.file,
            name,
            ...within,
          }),
        )
      })
    } else {
      value = text.slice(inner, close)
      if (manyLines && this.crlf) value = value.replaceAll('\r\n', '\n')
    }
    this.add(name, start, open, close + 1, quote, value, broken, place)
  }

  /**
   * True where a closing quote on a later line is in truth the opening quote of another entry: somebody forgot
   * to close the first one.
   */
  private opensAnother(close: number, open: number): boolean {
    const { text } = this
    const lineStart = text.lastIndexOf('\n', close) + 1
    if (lineStart <= open) return false
    const behind = this.skipBlanks(close + 1)
    const code = text.charCodeAt(behind)
    if (behind >= text.length || code === NEWLINE || code === RETURN || (code === HASH && behind > close + 1))
      return false
    let at = this.skipBlanks(lineStart)
    if (text.startsWith('export ', at)) at = this.skipBlanks(at + 6)
    const nameEnd = this.nameEnd(at)
    const equals = this.skipBlanks(nameEnd)
    return nameEnd > at && text.charCodeAt(equals) === EQUALS && this.skipBlanks(equals + 1) === close
  }

  private misread(start: number): void {
    const end = this.lineEnd(start)
    const found = misreadLine(this.text.slice(start, Math.min(end, start + 400)))
    this.at = start
    this.problems.push(problem(found.code, found.details as never, { ...this.place(start), name: found.name }))
    if (found.name !== null) this.add(found.name, start, end, end, '', '', true)
  }

  private add(
    name: string,
    start: number,
    valueStart: number,
    valueEnd: number,
    quote: Quote,
    value: string | Template,
    broken: boolean,
    place: { line: number; lineStart: number } = { line: this.line, lineStart: this.lineStart },
  ): void {
    this.entries.push({
      name,
      value,
      quote,
      broken,
      line: place.line,
      column: start - place.lineStart + 1,
      valueColumn: valueStart - place.lineStart + 1,
      start,
      valueStart,
      valueEnd,
    })
  }

  private report(code: Problem['code'], details: { name: string; [more: string]: unknown }, at: number): void {
    this.problems.push(problem(code, details as never, { ...this.place(at), name: details.name }))
  }

  private place(at: number) {
    return { file: this.file, line: this.line, column: at - this.lineStart + 1 }
  }

  /** The place of an offset at or behind a given line start. */
  private placeOf(at: number, from: { line: number; lineStart: number }) {
    let { line, lineStart } = from
    for (let end = this.text.indexOf('\n', lineStart); end >= 0 && end < at; end = this.text.indexOf('\n', lineStart)) {
      line++
      lineStart = end + 1
    }
    return { line, column: at - lineStart + 1 }
  }

  /** Moves on to an offset, counting the lines on the way. True where there were any. */
  private moveTo(at: number): boolean {
    const before = this.line
    for (
      let end = this.text.indexOf('\n', this.lineStart);
      end >= 0 && end < at;
      end = this.text.indexOf('\n', end + 1)
    ) {
      this.line++
      this.lineStart = end + 1
    }
    this.at = at
    return this.line > before
  }

  /** The first backslash at or behind an offset, or the end of the text. Asked with rising offsets only. */
  private nextBackslash(from: number): number {
    if (this.backslash < from) {
      const found = this.text.indexOf('\\', from)
      this.backslash = found < 0 ? this.text.length : found
    }
    return this.backslash
  }

  private lastOfEachName(): Map<string, EnvEntry> {
    const last = new Map<string, EnvEntry>()
    for (const entry of this.entries) last.set(entry.name, entry)
    if (last.size === this.entries.length) return last
    for (const { name, line, column } of this.entries) {
      const holds = last.get(name)!
      if (holds.line === line) continue
      this.problems.push(
        problem('name-twice', { name, line, holds: holds.line }, { file: this.file, line, column, name }),
      )
    }
    return last
  }

  private skipBlanks(at: number): number {
    while (isBlank(this.text.charCodeAt(at))) at++
    return at
  }

  private nameEnd(at: number): number {
    const { text } = this
    if ((CLASSES[text.charCodeAt(at)]! & NAME_START) === 0) return at
    do at++
    while ((CLASSES[text.charCodeAt(at)]! & NAME_PART) !== 0)
    return at
  }

  private endsLine(carriageReturn: number): boolean {
    return carriageReturn + 1 >= this.text.length || this.text.charCodeAt(carriageReturn + 1) === NEWLINE
  }

  private lineEnd(at: number): number {
    let end = this.text.indexOf('\n', at)
    if (end < 0) end = this.text.length
    return end > at && this.text.charCodeAt(end - 1) === RETURN ? end - 1 : end
  }
}

function isBlank(code: number): boolean {
  return code === SPACE || code === TAB
}

/** The double quote that closes a value, from an offset at which no escape is half read; -1 where none does. */
function closingQuote(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at)
    if (code === BACKSLASH) at++
    else if (code === DOUBLE) return at
  }
  return -1
}

function hasDollar(text: string, from: number, to: number): boolean {
  for (let at = from; at < to; at++) {
    const code = text.charCodeAt(at)
    if (code === DOLLAR || code === BACKTICK) return true
  }
  return false
}
