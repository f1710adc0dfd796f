import type { TextEdit } from '@mappa/core/text/edits'
import type { SourceLiteral } from '../source.ts'
import { rewriteText } from '../text/rewriting.ts'
import { endOfLine, startOfLine } from '../tree/lines.ts'

const INSTRUCTION = /^\s*(ENV|ARG)\s+/i

/** How a build of an image gets values: as arguments, unless they are secret. */
export function dockerRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]) {
  return rewriteText({
    literals,
    obstacle({ text, start, literal }) {
      if (/[$\\]/.test(literal.value)) return 'dollar'
      return INSTRUCTION.test(findLine(text, start)) ? null : 'build-command'
    },
    replace({ name, secret }, { text, start, end, literal, isWhole }) {
      if (secret) return 'image-secret'
      const line = startOfLine(text, start)
      const own = /([A-Za-z_]\w*)[ =]["']?$/.exec(text.slice(line, start))?.[1]
      const isArgument = /^\s*ARG\b/i.test(text.slice(line))
      const quoted =
        isWhole && literal.start < start ? { from: literal.start, to: literal.end } : { from: start, to: end }
      // What is called like the variable needs no value of its own.
      if (isArgument && own === name && isWhole) return [{ from: line, to: endOfLine(text, end), by: `ARG ${name}` }]
      return [
        { from: line, to: line, by: `ARG ${name}\n` },
        { ...quoted, by: isWhole ? `$${name}` : `\${${name}}` },
      ]
    },
    // Two values of a line need one argument each, and one value once.
    complete: (_text, edits) => edits.filter((each, at) => !isSame(edits[at - 1], each)),
    start: (_file, names) => `docker build ${names.map((name) => `--build-arg ${name} `).join('')}.`,
  })
}

function isSame(before: TextEdit | undefined, { from, to, by }: TextEdit): boolean {
  return before !== undefined && before.from === from && before.to === to && before.by === by
}

function findLine(text: string, at: number): string {
  return text.slice(startOfLine(text, at), endOfLine(text, at))
}
