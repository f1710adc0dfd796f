import type { TextEdit } from '@mappa/core/text/edits'
import { python } from '../python/index.ts'
import type { FileSurroundings, Replaceable, Rewriting } from '../rewriting.ts'
import { type Cell, getCode, type JsonText, listCells, toPlace } from './cells.ts'
import { clearOutputs, listOutputRanges } from './outputs.ts'

/** How the code cells of a notebook are changed: within their JSON, everything else staying byte for byte the same. */
export const notebookRewriting: Rewriting = {
  find(text, file, around, secrets) {
    const cells = listCells(text)?.filter(({ isCode }) => isCode)
    return cells?.flatMap(({ source }) => findReplaceables(source, file, around, secrets)) ?? null
  },
  complete: (text, edits) => withImport(text, edits),
  faults: (text, file) =>
    (listCells(text) ?? []).reduce(
      (sum, { isCode, source }) => sum + (isCode ? python.rewriting!.faults!(getCode(source), file) : 0),
      isJson(text) ? 0 : 1000,
    ),
  outputs: { ranges: listOutputRanges, clear: clearOutputs },
  start: (file) => `python3 -m notebook ${file}`,
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text)
    return true
  } catch {
    return false
  }
}

function findReplaceables(
  source: readonly JsonText[],
  file: string,
  around: FileSurroundings,
  secrets: readonly string[],
): readonly Replaceable[] {
  if (source.length === 0) return []
  const found = python.rewriting!.find(getCode(source), file, around, secrets) ?? []
  const shiftEdits = (edits: readonly TextEdit[] | null) =>
    edits?.map(({ from, to, by }) => ({
      from: findOffset(source, from, file),
      to: findOffset(source, to, file),
      by: escapeJsonText(by),
    })) ?? null
  return found.map((each) => {
    const { offset: start, line, column } = toPlace(source, each.start, file)
    return {
      ...each,
      line,
      column,
      start,
      end: findOffset(source, each.end, file),
      replace: (variable) => shiftEdits(takeEdits(each.replace(variable))),
      replacePart: (variable, from, to) => {
        const [first, last] = [from, to].map((at) => findCodeOffset(source, at))
        return shiftEdits(takeEdits(each.replacePart?.(variable, first!, last!) ?? null))
      },
    }
  })
}

const takeEdits = (edits: ReturnType<Replaceable['replace']>) => (typeof edits === 'string' ? null : edits)

function findOffset(source: readonly JsonText[], at: number, file: string): number {
  return toPlace(source, at, file).offset
}

/** Where an offset of the file lies in the code of its cell. */
function findCodeOffset(source: readonly JsonText[], at: number): number {
  let code = 0
  for (const { offset, written, value } of source) {
    if (at <= offset + written.length) {
      const before = written.slice(1, at - offset).match(/\\u[0-9a-fA-F]{4}|\\.|[^\\]/gs) ?? []
      return code + before.length
    }
    code += value.length
  }
  return code
}

const escapeJsonText = (text: string) => JSON.stringify(text).slice(1, -1)

/** Adds `import os` to the first cell of code, unless a cell before the first change has it. */
function withImport(text: string, edits: readonly TextEdit[]): readonly TextEdit[] {
  if (!edits.some(({ by }) => by.includes('os.environ'))) return edits
  const cells = (listCells(text) ?? []).filter(({ isCode, source }) => isCode && source.length > 0)
  const first = Math.min(...edits.map(({ from }) => from))
  const before = cells.filter(({ source }) => source[0]!.offset < first)
  if (before.some(({ source }) => /^import (?:[^#\n]*,)?\s*os\b/m.test(getCode(source)))) return edits
  const cell =
    cells.find(({ source }) => /^(?:import|from) /m.test(getCode(source)) && source[0]!.offset <= first) ?? before[0]
  return cell === undefined ? edits : [importEdit(text, cell), ...edits]
}

/** A line of its own before the first import of a cell, parted from the next as its others are. */
function importEdit(text: string, { source }: Cell): TextEdit {
  const line = source.find(({ value }) => /^(?:import|from) /.test(value)) ?? source[0]!
  const at = line.offset + 1
  const [one, two] = source
  const between = two === undefined ? null : text.slice(one!.offset + one!.written.length, two.offset)
  const by = between === null || !between.includes(',') ? 'import os\\n' : `import os\\n"${between}"`
  return { from: at, to: at, by }
}
