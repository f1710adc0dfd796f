import type { LoadingCode, Problem } from '../../problems/problem.ts'
import { problem } from '../../problems/problem.ts'
import { parseTemplate, type Template } from '../../template/template.ts'
import { BareScanner } from './bare.ts'
import {
  DOUBLE,
  EQUALS,
  endsInCrlf,
  findLineEnd,
  HASH,
  isLineEnd,
  isRestOfLine,
  nameEnd,
  SINGLE,
  skipBlanks,
  skipExport,
} from './characters.ts'
import { diagnoseMisread } from './diagnose-line.ts'
import type { Quote } from './entry.ts'
import { EntryTable } from './entry-table.ts'
import { findBraces, findClosingQuote, findLoneQuote } from './find.ts'
import { ProblemList } from './problem-list.ts'

/** What a text was found to hold. */
export interface Scan {
  /** @internal */
  readonly table: EntryTable
  readonly problems: readonly Problem[]
}

/**
 * Reads the text of an env file from top to bottom. Never throws; what is wrong becomes a problem, and reading
 * goes on with the next line. The time is linear in the length of the text, whatever it holds: the search for a
 * closing quote ends at the next opening quote of the same sort, so no part of the text is searched twice for
 * one sort, and a search that met the end of the text is not begun again.
 *
 * @param text the whole text, which may begin with a byte-order mark
 * @param file the path to name in problems
 */
export function scan(text: string, file: string | null): Scan {
  return new Scanner(text, file).run()
}

/** Where a line begins. */
interface Line {
  readonly line: number
  readonly lineStart: number
}

/** The entry that is being read. */
interface Opening extends Line {
  readonly start: number
  readonly nameEnd: number
  readonly valueStart: number
}

class Scanner {
  private readonly text: string
  private readonly file: string | null
  private readonly table: EntryTable
  private readonly problems: ProblemList
  private readonly bare: BareScanner
  private at = 0
  private line = 1
  private lineStart = 0
  /** Where the current line ends: at its line feed or at the end of the text. */
  private lineBreak = 0
  private readonly next: Record<'\\' | '$' | '`', number> = { '\\': -1, $: -1, '`': -1 }
  /** False once a search for the end of a key has met the end of the text. */
  private keyEndAhead = true
  /**
   * True behind a line that was not understood or a quote that is open: what follows may be the rest of a secret, so its names are
   * told only where they are those of settings.
   */
  private unsure = false

  constructor(text: string, file: string | null) {
    this.text = text
    this.file = file
    this.table = new EntryTable(text)
    this.bare = new BareScanner(text)
    this.problems = new ProblemList(file)
    if (text.charCodeAt(0) === 0xfeff) {
      this.at = this.lineStart = 1
      this.problems.add(problem('byte-order-mark', {}, { file, line: 1, column: 1 }))
    }
  }

  run(): Scan {
    const { text, table, problems } = this
    while (this.at < text.length) {
      this.lineBreak = this.findBreak(this.at)
      // Leaves off somewhere on the last line it read.
      this.readLine()
      this.at = this.lineStart = this.lineBreak + 1
      this.line++
    }
    table.index(({ name, line, column }, { line: holds }) => {
      if (problems.isFull('notice')) problems.skip('notice')
      else problems.add(problem('name-twice', { name, line, holds }, { file: this.file, line, column, name }))
    })
    return { table, problems: problems.all() }
  }

  private readLine(): void {
    const { text, line, lineStart } = this
    this.at = skipBlanks(text, this.at)
    if (text.charCodeAt(this.at) === HASH || isLineEnd(text, this.at)) return
    const start = skipExport(text, this.at)
    const end = nameEnd(text, start)
    const equals = skipBlanks(text, end)
    if (end === start || text.charCodeAt(equals) !== EQUALS) {
      this.misread(start)
      return
    }
    const valueStart = skipBlanks(text, equals + 1)
    const code = text.charCodeAt(valueStart)
    const gap = valueStart > equals + 1
    // `NAME= # why` is an empty value with a comment.
    const nothing = isLineEnd(text, valueStart) || (gap && code === HASH)
    const entry: Opening = { line, lineStart, start, nameEnd: end, valueStart: nothing ? equals + 1 : valueStart }
    if (equals > end || (gap && !nothing)) this.report('spaces-around-equals', entry, start)
    if (nothing) this.add(entry, equals + 1, '', null)
    else if (code === SINGLE) this.readQuoted(entry, "'")
    else if (code === DOUBLE) this.readQuoted(entry, '"')
    else this.readBare(entry)
  }

  private readBare(entry: Opening): void {
    const { text } = this
    const found = this.bare
    found.measure(entry.valueStart)
    this.at = found.next
    if (found.spaces >= 0 && text.startsWith('-----BEGIN ', entry.valueStart) && this.passKey(entry, found.end)) return
    let value: string | Template | null = null
    if (found.dollar >= 0) {
      value = this.readTemplate(entry, entry.valueStart, found.end)
      if (value === null) {
        // The error says all there is to say: a command has spaces and brackets of its own.
        this.add(entry, found.end, '', null, true)
        return
      }
    }
    if (found.spaces >= 0) this.report('spaces-unquoted', entry, found.spaces)
    if (found.backslash >= 0) this.report('backslash-unquoted', entry, found.backslash)
    if (found.quote >= 0) this.report('quote-in-value', entry, found.quote)
    if (found.shell >= 0) this.report('shell-character', entry, found.shell)
    this.reportBraces(entry, found.end)
    if (found.carriageReturn >= 0) this.report('carriage-return', entry, found.carriageReturn)
    this.add(entry, found.end, '', value)
  }

  /** Braces stay what they are in an assignment, but behind `export` they are a word that bash expands. */
  private reportBraces(entry: Opening, end: number): void {
    if (entry.start === skipBlanks(this.text, entry.lineStart)) return
    const braces = findBraces(this.text, entry.valueStart, end)
    if (braces >= 0) this.report('braces-unquoted', entry, braces)
  }

  /** Passes over a key of several lines that has no quotes, so that its lines are not taken for entries. */
  private passKey(entry: Opening, end: number): boolean {
    const keyEnd = this.keyEndAhead ? this.text.indexOf('-----END ', entry.valueStart) : -1
    if (keyEnd < 0) this.keyEndAhead = false
    if (keyEnd < end) return false
    this.report('key-unquoted', entry, entry.valueStart)
    this.add(entry, findLineEnd(this.text, keyEnd), '', null, true)
    this.moveCursor(keyEnd)
    return true
  }

  private readQuoted(entry: Opening, quote: "'" | '"'): void {
    const { text } = this
    const open = entry.valueStart
    let close = text.indexOf(quote, open + 1)
    // Only behind a backslash can a quote be an escaped one.
    const escapes = quote === '"' && this.hasEarlier('\\', open + 1, close)
    if (escapes) close = findClosingQuote(text, this.next['\\'])
    if (close < 0 || this.opensAnother(close)) {
      this.report('quote-open', entry, open, { quote })
      this.add(entry, findLineEnd(text, open), quote, null, true)
      this.unsure = true
      return
    }
    this.moveCursor(close)
    const here: Line = { line: this.line, lineStart: this.lineStart }
    if (!isRestOfLine(text, close + 1)) {
      this.report('text-after-quote', entry, close, { quote, opened: entry.line }, here)
      this.add(entry, findLineEnd(text, close), quote, null, true)
      this.unsure = true
      return
    }
    let value: string | Template | null = null
    let broken = false
    const dollar = quote === '"' && (this.hasEarlier('$', open + 1, close) || this.hasEarlier('`', open + 1, close))
    if (escapes || dollar) {
      value = this.readTemplate(entry, open + 1, close)
      broken = value === null
      const lone = broken ? -1 : findLoneQuote(text, open + 1, close)
      if (lone >= 0) this.report('quote-in-reference', entry, lone, undefined, this.getLine(lone, entry))
    } else if (this.line > entry.line && endsInCrlf(text, close + 1, entry.lineStart)) {
      value = text.slice(open + 1, close).replaceAll('\r\n', '\n')
    }
    this.add(entry, close + 1, quote, value, broken)
  }

  /** Takes a value apart; `null` where it has an error. Each sort of fault is reported once. */
  private readTemplate(entry: Opening, from: number, to: number): string | Template | null {
    const quoted = from > entry.valueStart
    const seen = new Set<string>()
    let broken = false
    const crlf = quoted && endsInCrlf(this.text, to + 1, entry.lineStart)
    const value = parseTemplate(this.text, from, to, quoted, crlf, (fault) => {
      if (fault.code !== 'dollar-kept') broken = true
      if (seen.has(fault.code)) return
      seen.add(fault.code)
      this.report(fault.code, entry, fault.at, fault, this.getLine(fault.at, entry))
    })
    return broken ? null : value
  }

  /**
   * True where a closing quote on a later line is in truth the opening quote of another entry: somebody forgot
   * to close the first one.
   */
  private opensAnother(close: number): boolean {
    const { text } = this
    if (close < this.lineBreak || isRestOfLine(text, close + 1)) return false
    let at = skipBlanks(text, text.lastIndexOf('\n', close) + 1)
    if (text.startsWith('export ', at)) at = skipBlanks(text, at + 7)
    const end = nameEnd(text, at)
    const equals = skipBlanks(text, end)
    return end > at && text.charCodeAt(equals) === EQUALS && skipBlanks(text, equals + 1) === close
  }

  private misread(start: number): void {
    const { text, file, line, lineStart } = this
    const end = findLineEnd(text, start)
    const { code, suspect, isEntry } = diagnoseMisread(text.slice(start, Math.min(end, start + 400)))
    const place = { file, line, column: start - lineStart + 1 }
    if (this.problems.isFull('error')) this.problems.skip('error')
    else this.problems.add(problem(code, { suspect, near: null } as never, place))
    this.unsure = true
    if (isEntry && suspect !== null) {
      const entry = { line, lineStart, start, nameEnd: start + suspect.length, valueStart: end }
      this.table.add(entry, end, '', null, true, true)
    }
  }

  private add(entry: Opening, valueEnd: number, quote: Quote, value: string | Template | null, broken = false): void {
    this.table.add(entry, valueEnd, quote, value, broken, this.unsure)
  }

  private report(code: LoadingCode, entry: Opening, at: number, more: object = {}, line: Line = entry): void {
    const written = this.text.slice(entry.start, entry.nameEnd)
    const place = { file: this.file, line: line.line, column: at - line.lineStart + 1 }
    const made = this.unsure
      ? problem(code, { ...more, name: 'NAME', suspect: written } as never, place)
      : problem(code, { ...more, name: written } as never, { ...place, name: written })
    this.problems.add(made)
  }

  /** The line of an offset at or behind a line. */
  private getLine(at: number, from: Line): Line {
    let { line, lineStart } = from
    for (let end = this.text.indexOf('\n', lineStart); end >= 0 && end < at; end = this.text.indexOf('\n', lineStart)) {
      line++
      lineStart = end + 1
    }
    return { line, lineStart }
  }

  /** Moves on to an offset, counting the lines on the way. */
  private moveCursor(at: number): void {
    while (this.lineBreak < at) {
      this.lineStart = this.lineBreak + 1
      this.line++
      this.lineBreak = this.findBreak(this.lineStart)
    }
    this.at = at
  }

  private findBreak(at: number): number {
    const found = this.text.indexOf('\n', at)
    return found < 0 ? this.text.length : found
  }

  /** True where a character stands between two offsets. Asked with rising offsets, so the text is searched once. */
  private hasEarlier(character: '\\' | '$' | '`', from: number, to: number): boolean {
    if (this.next[character] < from) {
      const found = this.text.indexOf(character, from)
      this.next[character] = found < 0 ? this.text.length : found
    }
    return this.next[character] < to
  }
}
