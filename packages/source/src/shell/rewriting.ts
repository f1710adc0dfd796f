import type { TextEdit } from '@mappa/core/text/edits'
import type { ObstacleCode } from '../obstacles.ts'
import type { ReadVariable, Rewriting } from '../rewriting.ts'
import type { SourceLiteral } from '../source.ts'
import { rewriteText, type TextPlace } from '../text/rewriting.ts'
import { type ShellPiece, splitShell } from './quoting.ts'

/**
 * How scripts of a shell read their environment: `"${NAME:?}"`, which ends them where there is no such variable (POSIX.1-2017,
 * Shell Command Language, 2.6.2).
 *
 * @param literals finds the values of a script
 */
export function shellRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]): Rewriting {
  const piecesOf = memoize(splitShell)
  const findPiece = ({ text, start, end }: TextPlace) =>
    piecesOf(text).find((each) => each.start <= start && end <= each.end) ?? null
  return {
    ...rewriteText({
      literals,
      readsInOpenTexts: true,
      obstacle: (place) => findObstacle(findPiece(place), place),
      replace(variable, place) {
        const fallback = place.isWhole ? findFallback(place, variable.name) : null
        if (fallback !== null) return [fallback]
        const piece = findPiece(place)
        return piece === null ? null : replaceReads(piece, place, variable)
      },
      start: (file) => `bash ${file}`,
    }),
    faults: (text) =>
      splitShell(text).filter(
        ({ kind, end }) => kind !== 'plain' && kind !== 'comment' && end === text.length && !/['"\n]$/.test(text),
      ).length,
  }
}

/** Keeps the last answer of a function: each value of a script asks for the same. */
function memoize<T>(make: (text: string) => T): (text: string) => T {
  let last: { readonly text: string; readonly made: T } | undefined
  return (text) => {
    if (last?.text !== text) last = { text, made: make(text) }
    return last.made
  }
}

function findObstacle(piece: ShellPiece | null, { start, end }: TextPlace): ObstacleCode | null {
  if (piece === null || piece.kind === 'comment') return 'not-written'
  if (piece.kind === 'quoted heredoc') return 'quoted-heredoc'
  const isWhole = piece.start + 1 === start && piece.end - 1 === end
  return piece.kind === 'ansi' && !isWhole ? 'shell-quotes' : null
}

/** The reading of a variable in the place of a range, as the quotes around it demand. */
function replaceReads(piece: ShellPiece, { start, end }: TextPlace, { name }: ReadVariable): readonly TextEdit[] {
  const read = `\${${name}:?}`
  if (piece.kind === 'double' || piece.kind === 'heredoc') return [{ from: start, to: end, by: read }]
  if (piece.kind === 'plain') return [{ from: start, to: end, by: `"${read}"` }]
  const isFirst = start === piece.start + 1
  const isLast = end === piece.end - 1
  const from = isFirst ? piece.start - (piece.kind === 'ansi' ? 1 : 0) : start
  return [{ from, to: isLast ? piece.end : end, by: `${isFirst ? '' : "'"}"${read}"${isLast ? '' : "'"}` }]
}

/** `${NAME:-value}`: the edit of the whole of it, where a range is the value. */
function findFallback({ text, start, end, literal }: TextPlace, name: string): TextEdit | null {
  if (literal.variable !== name || text[end] !== '}') return null
  const before = /\$\{\w+:?[-=]$/.exec(text.slice(Math.max(0, start - 80), start))
  return before === null ? null : { from: start - before[0].length, to: end + 1, by: `\${${name}:?}` }
}
