import { GUARD_MUTANTS } from './guard.mjs'
import { PLACE_MUTANTS } from './places.mjs'
import { PROMISE_MUTANTS } from './promises.mjs'
import { SEARCH_MUTANTS } from './search.mjs'

/**
 * Protections, and how each is broken: the row of docs/security.md that it belongs to (the beginning of its first cell), a piece of a source
 * that stands there once, and what is put in its place. The test has to fail then.
 */
export const MUTANTS = [...PROMISE_MUTANTS, ...GUARD_MUTANTS, ...PLACE_MUTANTS, ...SEARCH_MUTANTS]

/** The first cells of the rows of all tables in a text of Markdown, without those of the heads. */
export function listRows(markdown) {
  const lines = markdown.split('\n')
  return lines.flatMap((line, at) => {
    const isRow = line.startsWith('| ') && !line.startsWith('| ---') && !(lines[at + 1] ?? '').startsWith('| ---')
    return isRow ? [line.slice(2, line.indexOf(' | '))] : []
  })
}
