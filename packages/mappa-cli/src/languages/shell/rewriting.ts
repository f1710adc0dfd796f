import type { TextEdit } from '../../../../mappa/src/core/text/edits.ts'
import type { ObstacleCode } from '../obstacles.ts'
import type { ReadVariable, Replaceable, Rewriting } from '../rewriting.ts'
import type { SourceLiteral } from '../source.ts'
import { rawOccurrences } from '../text/raw-occurrences.ts'
import { type ShellPiece, shellPieces } from './quoting.ts'

/**
 * How scripts of a shell read their environment: `"${NAME:?}"`, which ends them where there is no such variable (POSIX.1-2017,
 * Shell Command Language, 2.6.2).
 *
 * @param literals finds the values of a script
 */
export function shellRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]): Rewriting {
  return {
    find(text, file, _around, secrets) {
      const pieces = shellPieces(text)
      const own = literals(text, file)
      return [...own, ...rawOccurrences(text, file, secrets, own)].map((each) => replaceable(text, pieces, each))
    },
    faults: (text) =>
      shellPieces(text).filter(
        ({ kind, end }) => kind !== 'plain' && kind !== 'comment' && end === text.length && !/['"\n]$/.test(text),
      ).length,
    start: (file) => `bash ${file}`,
  }
}

function replaceable(text: string, pieces: readonly ShellPiece[], found: SourceLiteral): Replaceable {
  const { line, column, start, end, value, form } = found
  const inner = innerRange(text, found)
  const piece = pieceAt(pieces, inner.start, inner.end)
  const fallback = fallbackAt(text, inner)
  return {
    line,
    column,
    start,
    end,
    value,
    form: form === 'number' ? 'number' : 'text',
    variable: fallback?.variable ?? null,
    obstacle: obstacleIn(piece, inner),
    replace(variable) {
      if (piece === null) return null
      if (fallback !== null && fallback.variable === variable.name)
        return [{ from: fallback.start, to: fallback.end, by: `\${${variable.name}:?}` }]
      return replaceIn(piece, inner.start, inner.end, variable)
    },
    replacePart: (variable, from, to) => (piece === null ? null : replaceIn(piece, from, to, variable)),
  }
}

interface Range {
  readonly start: number
  readonly end: number
}

/** A value without the quotes around it. */
function innerRange(text: string, { start, end, value }: SourceLiteral): Range {
  const isQuoted = end - start === value.length + 2 && /^(["'])[\s\S]*\1$/.test(text.slice(start, end))
  return isQuoted || /^(["'])[\s\S]*\1$/.test(text.slice(start, end))
    ? { start: start + 1, end: end - 1 }
    : { start, end }
}

function pieceAt(pieces: readonly ShellPiece[], start: number, end: number): ShellPiece | null {
  return pieces.find((each) => each.start <= start && end <= each.end) ?? null
}

function obstacleIn(piece: ShellPiece | null, { start, end }: Range): ObstacleCode | null {
  if (piece === null) return 'not-written'
  if (piece.kind === 'quoted heredoc') return 'quoted-heredoc'
  if (piece.kind === 'comment') return 'not-written'
  const isWhole = piece.start + 1 === start && piece.end - 1 === end
  return piece.kind === 'ansi' && !isWhole ? 'shell-quotes' : null
}

/** The reading of a variable in the place of a range, as the quotes around it demand. */
function replaceIn(piece: ShellPiece, start: number, end: number, { name }: ReadVariable): readonly TextEdit[] {
  const read = `\${${name}:?}`
  if (piece.kind === 'double' || piece.kind === 'heredoc') return [{ from: start, to: end, by: read }]
  if (piece.kind === 'plain') return [{ from: start, to: end, by: `"${read}"` }]
  const opens = piece.start + 1
  const closes = piece.end - 1
  const from = start === opens ? piece.start - (piece.kind === 'ansi' ? 1 : 0) : start
  const to = end === closes ? piece.end : end
  return [{ from, to, by: `${start === opens ? '' : "'"}"${read}"${end === closes ? '' : "'"}` }]
}

/** `${NAME:-value}`: the whole of it, where a range is the value. */
function fallbackAt(text: string, { start, end }: Range): (Range & { readonly variable: string }) | null {
  const before = /\$\{([A-Za-z_]\w*):?[-=]$/.exec(text.slice(Math.max(0, start - 80), start))
  return before === null || text[end] !== '}'
    ? null
    : { variable: before[1]!, start: start - before[0].length, end: end + 1 }
}
