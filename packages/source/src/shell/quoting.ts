/** A piece of a script in which characters mean the same. */
export interface ShellPiece {
  readonly start: number
  readonly end: number
  readonly kind: 'plain' | 'single' | 'double' | 'ansi' | 'heredoc' | 'quoted heredoc' | 'comment'
}

const HEREDOC = /<<-?[ \t]*(?:(["'])([A-Za-z_]\w*)\1|\\?([A-Za-z_]\w*))/y

/**
 * Cuts a script into what its quotes enclose (POSIX.1-2017, Shell Command Language, 2.2 and 2.7.4). Substitutions of commands
 * within double quotes count as part of them.
 *
 * @example
 * splitShell("a='b c'").map(({ kind }) => kind) // ['plain', 'single']
 */
export function splitShell(text: string): readonly ShellPiece[] {
  return new Cutter(text).cut()
}

class Cutter {
  readonly #text: string
  readonly #pieces: ShellPiece[] = []
  /** The ends of texts that begin on the next line. */
  #heredocs: { readonly end: string; readonly isQuoted: boolean }[] = []
  #at = 0
  /** Where the plain text begins that was not cut off yet. */
  #begun = 0

  constructor(text: string) {
    this.#text = text
  }

  cut(): readonly ShellPiece[] {
    while (this.#at < this.#text.length) this.#step(this.#text[this.#at]!)
    this.#add('plain', this.#text.length)
    return this.#pieces
  }

  #step(character: string): void {
    const text = this.#text
    const at = this.#at
    const isAnsi = text[at - 1] === '$'
    if (character === "'") this.#add(isAnsi ? 'ansi' : 'single', endOfSingle(text, at, isAnsi))
    else if (character === '"') this.#double(endOfDouble(text, at))
    else if (character === '#' && /^$|[\s;&|(]/.test(text[at - 1] ?? '')) this.#add('comment', findLineEnd(text, at))
    else if (character === '\n') this.#newline()
    else if (text.startsWith('<<', at)) this.#redirection()
    else this.#at += character === '\\' ? 2 : 1
  }

  /** Adds a piece from here on, and the plain text before it. */
  #add(kind: ShellPiece['kind'], end: number): void {
    if (this.#at > this.#begun) this.#pieces.push({ start: this.#begun, end: this.#at, kind: 'plain' })
    if (end > this.#at) this.#pieces.push({ start: this.#at, end, kind })
    this.#begun = end
    this.#at = end
  }

  /** Adds a text in double quotes; a command that is substituted within has quotes of its own. */
  #double(end: number): void {
    for (let inner = this.#text.indexOf('$(', this.#at); inner >= 0 && inner < end; ) {
      const closing = endOfSubstitution(this.#text, inner + 2, end)
      this.#add('double', inner + 2)
      const pieces = splitShell(this.#text.slice(inner + 2, closing))
      for (const each of pieces)
        this.#pieces.push({ start: each.start + inner + 2, end: each.end + inner + 2, kind: each.kind })
      this.#at = closing
      this.#begun = closing
      inner = this.#text.indexOf('$(', closing)
    }
    this.#add('double', end)
  }

  #newline(): void {
    this.#at++
    for (const { end, isQuoted } of this.#heredocs.splice(0))
      this.#add(isQuoted ? 'quoted heredoc' : 'heredoc', endOfHeredoc(this.#text, this.#at, end))
  }

  #redirection(): void {
    HEREDOC.lastIndex = this.#at
    const found = this.#text.startsWith('<<<', this.#at) ? null : HEREDOC.exec(this.#text)
    this.#at += found?.[0].length ?? (this.#text.startsWith('<<<', this.#at) ? 3 : 2)
    if (found === null) return
    const isQuoted = found[1] !== undefined || found[0].includes('\\')
    this.#heredocs.push({ end: found[2] ?? found[3]!, isQuoted })
  }
}

function findLineEnd(text: string, at: number): number {
  const end = text.indexOf('\n', at)
  return end < 0 ? text.length : end
}

function endOfSingle(text: string, at: number, isAnsi: boolean): number {
  for (let index = at + 1; index < text.length; index++) {
    if (isAnsi && text[index] === '\\') index++
    else if (text[index] === "'") return index + 1
  }
  return text.length
}

function endOfDouble(text: string, at: number): number {
  let depth = 0
  for (let index = at + 1; index < text.length; index++) {
    if (text[index] === '\\') index++
    else if (text.startsWith('$(', index)) depth++
    else if (depth > 0 && text[index] === ')') depth--
    else if (text[index] === '"' && depth === 0) return index + 1
  }
  return text.length
}

/** Where a substituted command ends, before its bracket. */
function endOfSubstitution(text: string, at: number, end: number): number {
  let depth = 1
  for (let index = at; index < end; index++) {
    if (text[index] === '\\') index++
    else if (text[index] === "'") index = endOfSingle(text, index, false) - 1
    else if (text[index] === '(') depth++
    else if (text[index] === ')' && --depth === 0) return index
  }
  return end
}

function endOfHeredoc(text: string, at: number, end: string): number {
  const found = new RegExp(`^\\t*${end}[ \\t]*$`, 'm').exec(text.slice(at))
  return found === null ? text.length : at + found.index + found[0].length
}
