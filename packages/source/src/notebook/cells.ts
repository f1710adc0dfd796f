import { type JSONPath, visit } from 'jsonc-parser'
import type { SourcePlace } from '../source.ts'

/** A text in the JSON of a notebook. */
export interface JsonText {
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
export interface Cell {
  isCode: boolean
  readonly source: JsonText[]
  readonly outputs: JsonText[]
}

/** The cells of a notebook; `null` for what is none. */
export function listCells(text: string): readonly Cell[] | null {
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

/**
 * The code of a cell. A magic that sets a variable is an assignment; a cell in another language is none of Python.
 */
export function getCode(source: readonly JsonText[]): string {
  const code = source.map(({ value }) => value).join('')
  if (/^\s*%%(?!time|capture|prun)/.test(code)) return code.replace(/[^\n]/g, ' ')
  // Magics and commands stay where they are, and are no Python.
  return code.replace(/^%env[ \t]/gm, fillBlanks).replace(/^[ \t]*[%!?][^\n]*/gm, fillBlanks)
}

const fillBlanks = (text: string) => ' '.repeat(text.length)

export function listLineStarts(text: string): readonly number[] {
  return [0, ...[...text.matchAll(/\n/g)].map(({ index }) => index + 1)]
}

/** Where a place in the code of a cell stands in the file. */
export function toPlace(
  texts: readonly JsonText[],
  offset: number,
  file: string,
): SourcePlace & { readonly offset: number } {
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
  const inside = 1 + measureWritten(found.written, offset - from)
  return { file, line: found.line, column: found.column + inside, offset: found.offset + inside }
}

/** How many characters of a string in JSON so many characters of its text take, without the quote at its beginning. */
function measureWritten(written: string, count: number): number {
  const units = written.slice(1, -1).match(/\\u[0-9a-fA-F]{4}|\\.|[^\\]/gs) ?? []
  return units.slice(0, count).reduce((sum, each) => sum + each.length, 0)
}
