/** Where the line begins in which an offset lies. */
export function startOfLine(text: string, at: number): number {
  return text.lastIndexOf('\n', at - 1) + 1
}

/** Where the line ends in which an offset lies, before its end of line. */
export function endOfLine(text: string, at: number): number {
  return at + text.slice(at).search(/\r?\n|$/)
}

/** The blanks that a line begins with. */
export function findIndentation(text: string, at: number): string {
  return /^[ \t]*/.exec(text.slice(startOfLine(text, at)))![0]
}
