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
 * shellPieces("a='b c'").map(({ kind }) => kind) // ['plain', 'single']
 */
export function shellPieces(text: string): readonly ShellPiece[] {
  const pieces: ShellPiece[] = []
  const heredocs: { end: string; isQuoted: boolean }[] = []
  let at = 0
  let begun = 0
  const cut = (kind: ShellPiece['kind'], from: number, to: number) => {
    if (from > begun) pieces.push({ start: begun, end: from, kind: 'plain' })
    if (to > from) pieces.push({ start: from, end: to, kind })
    begun = to
    at = to
  }
  while (at < text.length) {
    const character = text[at]!
    if (character === '\\') at += 2
    else if (character === "'")
      cut(text[at - 1] === '$' ? 'ansi' : 'single', at, endOfSingle(text, at, text[at - 1] === '$'))
    else if (character === '"') cut('double', at, endOfDouble(text, at))
    else if (character === '#' && (at === 0 || /[\s;&|(]/.test(text[at - 1]!))) cut('comment', at, lineEnd(text, at))
    else if (character === '\n' && heredocs.length > 0) {
      at++
      for (const { end, isQuoted } of heredocs.splice(0))
        cut(isQuoted ? 'quoted heredoc' : 'heredoc', at, endOfHeredoc(text, at, end))
    } else if (character === '<' && text[at + 1] === '<' && text[at + 2] !== '<') {
      HEREDOC.lastIndex = at
      const found = HEREDOC.exec(text)
      if (found !== null)
        heredocs.push({ end: found[2] ?? found[3]!, isQuoted: found[1] !== undefined || found[0].includes('\\') })
      at += found?.[0].length ?? 2
    } else at += character === '<' && text.startsWith('<<<', at) ? 3 : 1
  }
  cut('plain', text.length, text.length)
  return pieces
}

function lineEnd(text: string, at: number): number {
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

function endOfHeredoc(text: string, at: number, end: string): number {
  const found = new RegExp(`^\\t*${end}[ \\t]*$`, 'm').exec(text.slice(at))
  return found === null ? text.length : at + found.index + found[0].length
}
