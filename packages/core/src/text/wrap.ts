/**
 * Folds a text between words.
 *
 * @param width the most characters in a line, `Infinity` for one line
 * @param first what the first line begins with
 * @param rest what the others begin with
 */
export function wrapText(text: string, width: number, first: string, rest: string): string[] {
  const lines: string[] = []
  let line = first
  let empty = true
  for (const word of text.split(' ')) {
    if (!empty && line.length + 1 + word.length > width) {
      lines.push(line)
      line = rest
      empty = true
    }
    line += empty ? word : ` ${word}`
    empty = false
  }
  lines.push(line)
  return lines
}
