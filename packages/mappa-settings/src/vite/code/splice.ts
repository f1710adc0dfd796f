import { encode, type SourceMapMappings, type SourceMapSegment } from '@jridgewell/sourcemap-codec'

/** A text to put into code, in the place of what is there. */
export interface Change {
  /** Where it begins in the code, from 0, in UTF-16 code units. */
  readonly start: number
  /** Where what it replaces ends. */
  readonly end: number
  readonly text: string
}

/** Code in which something was changed, and its source map (ECMA-426, version 3). */
export interface Spliced {
  readonly code: string
  readonly map: {
    readonly version: 3
    readonly sources: string[]
    readonly names: string[]
    readonly mappings: string
  }
}

/** Words and line breaks, and what is between them: debuggers stop at such places. */
const PIECE = /\w+|\n|[^\w\n]+/g

/**
 * Changes code in several places, each of which is there once.
 *
 * @param source what the map calls the code
 * @param changes in any order; no two overlap
 * @returns the new code, whose map leads each word to where it was, and each change to where what it replaces began; `null` without a
 *   change
 * @throws {RangeError} where two changes overlap
 */
export function splice(code: string, source: string, changes: readonly Change[]): Spliced | null {
  if (changes.length === 0) return null
  const mappings: SourceMapMappings = [[]]
  let result = ''
  let [line, column, at, width] = [0, 0, 0, 0]

  /** Goes on in the new code. */
  const write = (text: string) => {
    result += text
    const [first = '', ...others] = text.split('\n')
    for (const _ of others) mappings.push([])
    width = others.length === 0 ? width + first.length : others.at(-1)!.length
  }
  const mark = () => (mappings.at(-1) as SourceMapSegment[]).push([width, 0, line, column])
  /** Goes on in the old code. */
  const read = (piece: string) => {
    at += piece.length
    if (piece === '\n') [line, column] = [line + 1, 0]
    else column += piece.length
  }
  const pieces = (end: number) => code.slice(at, end).match(PIECE) ?? []

  for (const { start, end, text } of changes.toSorted((a, b) => a.start - b.start)) {
    if (start < at) throw new RangeError(`Two changes of ${source} overlap at ${start}.`)
    for (const piece of pieces(start)) keep(piece)
    mark()
    write(text)
    for (const piece of pieces(end)) read(piece)
  }
  for (const piece of pieces(code.length)) keep(piece)
  return { code: result, map: { version: 3, sources: [source], names: [], mappings: encode(mappings) } }

  function keep(piece: string): void {
    if (piece !== '\n') mark()
    write(piece)
    read(piece)
  }
}
