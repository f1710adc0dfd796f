import type { TextEdit } from '@mappa/core/text/edits'
import { splitShell } from '../shell/quoting.ts'
import type { SourceLiteral } from '../source.ts'
import { rewriteText, type TextPlace } from '../text/rewriting.ts'
import { startOfLine } from '../tree/lines.ts'

/** How a Makefile reads its environment: each variable of it is one of make, and a target hands it to its commands. */
export function makeRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]) {
  return rewriteText({
    literals,
    obstacle({ text, start, literal }) {
      if (/[$\\]/.test(literal.value)) return 'dollar'
      return /^\s*#/.test(text.slice(startOfLine(text, start), start)) ? 'not-written' : null
    },
    replace: ({ name }, place) =>
      place.text[startOfLine(place.text, place.start)] === '\t' ? inCommand(name, place) : inAssignment(name, place),
    start: () => 'make',
  })
}

function inAssignment(name: string, { text, start, end, literal, isWhole }: TextPlace): readonly TextEdit[] {
  const line = startOfLine(text, start)
  const read = `$(or $(${name}),$(error ${name} is not set))`
  const range = isWhole ? { from: literal.start, to: literal.end } : { from: start, to: end }
  const [whole, own, operator] =
    /^\s*(?:export\s+|override\s+)?([\w.-]+)\s*(:{0,2}|[?+])=/.exec(text.slice(line, start)) ?? []
  // A variable that is made of itself has to be read at once.
  const isOwn = own === name && operator !== ':' && operator !== '::'
  const at = line + (whole ?? '').length - 1 - (operator ?? '').length
  return [...(isOwn ? [{ from: at, to: at + operator!.length + 1, by: ':=' }] : []), { ...range, by: read }]
}

/** Commands are those of a shell, in which make leaves one of two dollar signs. */
function inCommand(name: string, { text, start, end }: TextPlace): readonly TextEdit[] | null {
  const line = startOfLine(text, start)
  const pieces = splitShell(text.slice(line, text.indexOf('\n', end) < 0 ? undefined : text.indexOf('\n', end)))
  const piece = pieces.find((each) => line + each.start <= start && end <= line + each.end)
  const read = `$\${${name}:?}`
  if (piece === undefined || piece.kind === 'comment' || piece.kind === 'ansi') return null
  if (piece.kind === 'double') return [{ from: start, to: end, by: read }]
  return [{ from: start, to: end, by: piece.kind === 'single' ? `'"${read}"'` : `"${read}"` }]
}
