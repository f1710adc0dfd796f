import type { Language } from '../language.ts'
import { python } from '../python/index.ts'
import type { Source, SourceLiteral } from '../source.ts'
import { getCode, type JsonText, listCells, listLineStarts, toPlace } from './cells.ts'
import { notebookRewriting } from './rewriting.ts'

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
  rewriting: notebookRewriting,
  read(text, file) {
    const cells = listCells(text)
    if (cells === null) return null
    const sources = cells.filter(({ isCode }) => isCode).map(({ source }) => readCell(source, file))
    const literals = sources.flatMap((each) => each.literals)
    const outputs = cells.flatMap((each) => each.outputs)
    return {
      literals: [...literals, ...literals.flatMap((each) => findShown(outputs, each))],
      reads: sources.flatMap((each) => each.reads),
      fallbacks: sources.flatMap((each) => each.fallbacks ?? []),
    }
  },
}

/** Reads the code of a cell, and finds the places of all that is in it in the file. */
function readCell(source: readonly JsonText[], file: string): Source {
  const code = getCode(source)
  const found = python.read(code, file)!
  const variables = listVariablesSet(source.map(({ value }) => value).join(''), file)
  const starts = listLineStarts(code)
  const getPlace = (offset: number) => toPlace(source, offset, file)
  const locate = (each: SourceLiteral): SourceLiteral => {
    const { offset: start, ...place } = getPlace(each.start)
    return { ...each, ...place, start, end: getPlace(each.end).offset }
  }
  return {
    // Lines of a cell are texts of their own, so that no conditional can be replaced as a whole.
    literals: [...found.literals, ...variables].map(({ choice: _, ...each }) => locate(each)),
    fallbacks: found.fallbacks?.map(locate) ?? [],
    reads: found.reads.map((each) => {
      const { offset: _, ...place } = getPlace(starts[each.line - 1]! + each.column - 1)
      return { ...each, ...place }
    }),
  }
}

/** Values that a magic gives to variables: `%env DOME_KEY=...`. */
function listVariablesSet(code: string, file: string): readonly SourceLiteral[] {
  return [...code.matchAll(/^%env[ \t]+([A-Za-z_]\w*)[ \t]*[= ][ \t]*(["']?)([^\s"']{4,})\2/gm)].map(
    ({ 0: whole, 1: name, 2: quote, 3: value, index }) => {
      const end = index + whole.length - quote!.length
      const place = { file, line: 1, column: 1, start: end - value!.length, end }
      return { ...place, value: value!, form: 'text', names: [name!], callee: null, variable: null }
    },
  )
}

/** The places at which outputs show a value of the code. */
function findShown(outputs: readonly JsonText[], literal: SourceLiteral): readonly SourceLiteral[] {
  const { value, form } = literal
  if (form !== 'text' || value.length < SHORTEST_IN_OUTPUT) return []
  return outputs.flatMap((each) => {
    const at = each.value.indexOf(value)
    if (at < 0) return []
    const { offset: start, ...place } = toPlace([each], at, literal.file)
    return [{ ...literal, ...place, start, end: toPlace([each], at + value.length, literal.file).offset }]
  })
}
