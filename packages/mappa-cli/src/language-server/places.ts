import { path } from '@mappa/node/fs/builtin'
import type { Location, Position, Range } from 'vscode-languageserver'

const { fileURLToPath, pathToFileURL } = process.getBuiltinModule('node:url')

/** The path of a document; `null` for one that is no file. */
export function getPath(uri: string): string | null {
  try {
    return uri.startsWith('file:') ? fileURLToPath(uri) : null
  } catch {
    return null
  }
}

/** The address of a file. */
export function toUri(file: string): string {
  return pathToFileURL(file).href
}

/** Line and column of an offset, both from 0, in UTF-16 code units. */
export function toPosition(text: string, offset: number): Position {
  const before = text.slice(0, offset)
  const line = before.split('\n').length - 1
  return { line, character: offset - (before.lastIndexOf('\n') + 1) }
}

/** The offset of a position; the end of its line for one behind it. */
export function toOffset(text: string, { line, character }: Position): number {
  let from = 0
  for (let index = 0; index < line; index++) {
    const end = text.indexOf('\n', from)
    if (end < 0) return text.length
    from = end + 1
  }
  const end = text.indexOf('\n', from)
  return Math.min(from + character, end < 0 ? text.length : end)
}

/** A range of offsets, as the protocol has it. */
export function toRange(text: string, start: number, end: number): Range {
  return { start: toPosition(text, start), end: toPosition(text, end) }
}

/** A place that counts from 1. */
export interface Place {
  readonly file: string
  readonly line: number
  readonly column: number
  readonly endColumn: number
}

/** The same as the protocol has it. */
export function toLocation(root: string, { file, line, column, endColumn }: Place): Location {
  const start = { line: line - 1, character: column - 1 }
  return { uri: toUri(path.resolve(root, file)), range: { start, end: { line: line - 1, character: endColumn - 1 } } }
}
