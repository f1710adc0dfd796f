import {
  BACKSLASH,
  BACKTICK,
  CLOSE_BRACE,
  DOLLAR,
  DOUBLE,
  HASH,
  isLineEnd,
  NEWLINE,
  OPEN_BRACE,
  OPEN_PARENTHESIS,
  RETURN,
  SINGLE,
  SPACE,
  stopsBare,
  TAB,
} from './characters.ts'

/**
 * Measures values without quotes: where one ends, and where what is special about it stands; -1 for what it lacks. It ends with the line,
 * or before blanks and `#`; within `${...}` neither of them means anything. One scanner measures all values of a text, one after another.
 */
export class BareScanner {
  /** Behind the last character of the value. */
  end = 0
  /** Where reading stopped: a comment or the end of the line. */
  next = 0
  spaces = -1
  dollar = -1
  backslash = -1
  quote = -1
  shell = -1
  carriageReturn = -1
  private readonly text: string
  /** How many references are open. */
  private depth = 0

  constructor(text: string) {
    this.text = text
  }

  /** @param from where the value begins */
  measure(from: number): void {
    const text = this.text
    let at = from
    // Most values end with their first special character, the line feed.
    while (!stopsBare(text.charCodeAt(at)) && at < text.length) at++
    this.end = this.next = at
    this.spaces = this.dollar = this.backslash = this.quote = this.shell = this.carriageReturn = -1
    this.depth = 0
    if (text.charCodeAt(at) !== NEWLINE) this.run()
  }

  /** Reads on from the first character that may mean something. */
  private run(): void {
    const text = this.text
    for (; this.next < text.length; this.next++) {
      const code = text.charCodeAt(this.next)
      const stops = stopsBare(code)
      if (stops && this.isEnd(code)) return
      if (code === SPACE || code === TAB) continue
      if (this.end < this.next && this.depth === 0 && this.spaces < 0) this.spaces = this.end
      if (stops) this.readSpecial(code)
      this.end = this.next + 1
    }
  }

  /** True at the end of the line, and before a comment. */
  private isEnd(code: number): boolean {
    if (code === NEWLINE) return true
    if (code === RETURN) return isLineEnd(this.text, this.next)
    return code === HASH && this.next > this.end && this.depth === 0
  }

  private readSpecial(code: number): void {
    const following = this.text.charCodeAt(this.next + 1)
    if (code === DOLLAR) this.readDollar(following)
    else if (code === BACKSLASH && (following === DOLLAR || (following === CLOSE_BRACE && this.depth > 0))) {
      if (this.dollar < 0) this.dollar = this.next
      this.next++
    } else if (code === CLOSE_BRACE) {
      if (this.depth > 0) this.depth--
    } else this.note(code)
  }

  private readDollar(following: number): void {
    if (this.dollar < 0) this.dollar = this.next
    if (following === OPEN_BRACE) this.depth++
    // What follows belongs to the $.
    if (following === OPEN_BRACE || following === OPEN_PARENTHESIS) this.next++
  }

  /** Keeps where the first of its sort stands. */
  private note(code: number): void {
    const at = this.next
    if (code === BACKTICK) this.dollar = first(this.dollar, at)
    else if (code === BACKSLASH) this.backslash = first(this.backslash, at)
    else if (code === SINGLE || code === DOUBLE) this.quote = first(this.quote, at)
    else if (code === RETURN) this.carriageReturn = first(this.carriageReturn, at)
    else if (code !== HASH && this.depth === 0) this.shell = first(this.shell, at)
  }
}

const first = (known: number, at: number) => (known < 0 ? at : known)
