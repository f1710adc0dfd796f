import type { JSONPath } from 'jsonc-parser'
import type { Language } from './language.ts'
import { python } from './python/index.ts'
import type { Source, SourceLiteral, SourcePlace } from './source.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** A text in the JSON of a notebook. */
interface JsonText {
  readonly value: string
  /** Where its first quote stands, from 0. */
  readonly offset: number
  /** As it is written, quotes included. */
  readonly written: string
  /** Line and column of its first quote, both from 1. */
  readonly line: number
  readonly column: number
}

/** A cell, as far as it matters here. */
interface Cell {
  isCode: boolean
  readonly source: JsonText[]
  readonly outputs: JsonText[]
}

/** Values shorter than this, in characters, stand in outputs by chance. */
const SHORTEST_IN_OUTPUT = 8

/**
 * Notebooks (nbformat 4): their code cells, read as Python. A value that an output of any cell shows has a place there too, so that nobody
 * forgets it.
 */
export const notebook: Language = {
  name: 'notebooks',
  files: /\.ipynb$/i,
  isPrefiltered: false,
  mayBeMinified: false,
  // With the pictures in their outputs they become large.
  maxBytes: 64 * 1024 * 1024,
  read(text, file) {
    const cells = cellsOf(text)
    if (cells === null) return null
    const sources = cells.filter(({ isCode }) => isCode).map(({ source }) => readCell(source, file))
    const literals = sources.flatMap((each) => each.literals)
    const outputs = cells.flatMap((each) => each.outputs)
    return {
      literals: [...literals, ...literals.flatMap((each) => shownIn(outputs, each))],
      reads: sources.flatMap((each) => each.reads),
    }
  },
}

/** The cells of a notebook; `null` for what is none. */
function cellsOf(text: string): readonly Cell[] | null {
  // Loaded for the first notebook: few projects have one.
  const { visit } = createRequire(import.meta.url)('jsonc-parser') as typeof import('jsonc-parser')
  const cells: Cell[] = []
  let isWrong = false
  visit(
    text,
    {
      onLiteralValue(value, offset, length, line, column, pathOf) {
        if (typeof value !== 'string') return
        const path = pathOf()
        if (path[0] !== 'cells' || typeof path[1] !== 'number') return
        cells[path[1]] ??= { isCode: false, source: [], outputs: [] }
        const written = text.slice(offset, offset + length)
        take(cells[path[1]]!, path, { value, offset, written, line: line + 1, column: column + 1 })
      },
      onError() {
        isWrong = true
      },
    },
    { disallowComments: true },
  )
  return isWrong || cells.length === 0 ? null : cells.filter((each) => each !== undefined)
}

function take(cell: Cell, path: JSONPath, text: JsonText): void {
  if (path[2] === 'cell_type' && path.length === 3) cell.isCode = text.value === 'code'
  else if (path[2] === 'source') cell.source.push(text)
  // Pictures are texts too, and hold nothing to read.
  else if (path[2] === 'outputs' && !path.some((each) => /^(?:image|audio|video)\//.test(String(each))))
    cell.outputs.push(text)
}

/** Reads the code of a cell, and finds the places of all that is in it in the file. */
function readCell(source: readonly JsonText[], file: string): Source {
  // A magic that sets a variable is an assignment.
  const code = source
    .map(({ value }) => value)
    .join('')
    .replace(/^%env[ \t]/gm, (magic) => ' '.repeat(magic.length))
  const found = python.read(code, file)!
  const starts = lineStarts(code)
  const placeOf = (offset: number) => placeIn(source, offset, file)
  return {
    literals: found.literals.map((each) => {
      const { offset: start, ...place } = placeOf(each.start)
      return { ...each, ...place, start, end: placeOf(each.end).offset }
    }),
    reads: found.reads.map((each) => {
      const { offset: _, ...place } = placeOf(starts[each.line - 1]! + each.column - 1)
      return { ...each, ...place }
    }),
  }
}

function lineStarts(text: string): readonly number[] {
  return [0, ...[...text.matchAll(/\n/g)].map(({ index }) => index + 1)]
}

/** Where a place in the code of a cell stands in the file. */
function placeIn(texts: readonly JsonText[], offset: number, file: string): SourcePlace & { readonly offset: number } {
  let from = 0
  let found = texts[0]!
  for (const each of texts) {
    if (offset < from) break
    if (offset >= from && (offset < from + each.value.length || each === texts.at(-1))) {
      found = each
      break
    }
    from += each.value.length
  }
  const inside = 1 + writtenLength(found.written, offset - from)
  return { file, line: found.line, column: found.column + inside, offset: found.offset + inside }
}

/** How many characters of a string in JSON so many characters of its text take, without the quote at its beginning. */
function writtenLength(written: string, count: number): number {
  const units = written.slice(1, -1).match(/\\u[0-9a-fA-F]{4}|\\.|[^\\]/gs) ?? []
  return units.slice(0, count).reduce((sum, each) => sum + each.length, 0)
}

/** The places at which outputs show a value of the code. */
function shownIn(outputs: readonly JsonText[], literal: SourceLiteral): readonly SourceLiteral[] {
  const { value, form } = literal
  if (form !== 'text' || value.length < SHORTEST_IN_OUTPUT) return []
  return outputs.flatMap((each) => {
    const at = each.value.indexOf(value)
    if (at < 0) return []
    const { offset: start, ...place } = placeIn([each], at, literal.file)
    return [{ ...literal, ...place, start, end: placeIn([each], at + value.length, literal.file).offset }]
  })
}
