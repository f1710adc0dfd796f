import { toOffset, toRange } from '../../places.ts'
import { edit, type Fix, findEntry, getLine } from './fix.ts'

/** Takes out every entry of the name but the last one, which is the one that holds. */
export const withoutDuplicate: Fix = (broken) => {
  const { data, document } = broken
  const same = document.entries.filter(({ name }) => name === (data.name ?? findEntry(broken)?.name))
  if (same.length < 2) return []
  const edits = same.slice(0, -1).map((entry) => ({ range: getLine(document, entry), newText: '' }))
  const what = edits.length === 1 ? 'value' : `${edits.length} values`
  return [edit(broken, `Remove the ${what} of ${same[0]!.name} that the last one overrides`, edits)]
}

/** Takes out an entry. */
export const removed: Fix = (broken) => {
  const entry = findEntry(broken)
  if (entry === undefined) return []
  return [edit(broken, `Remove ${entry.name}`, [{ range: getLine(broken.document, entry), newText: '' }], false)]
}

/** Takes out a deprecated entry that nothing replaces. */
export const removedIfAlone: Fix = (broken) => (broken.data.near === null ? removed(broken) : [])

/** Adds a name that is missing to the end of the file. */
export const added: Fix = (broken) => {
  const { name } = broken.data
  if (name === null) return []
  const text = String(broken.document)
  const gap = text === '' || text.endsWith('\n') ? '' : '\n'
  const range = toRange(text, text.length, text.length)
  return [edit(broken, `Add ${name} to ${broken.file}`, [{ range, newText: `${gap}${name}=\n` }])]
}

/** Takes away the spaces around `=`. */
export const withoutSpaces: Fix = (broken) => {
  const entry = findEntry(broken)
  if (entry === undefined) return []
  const range = toRange(String(broken.document), entry.nameEnd, entry.valueStart)
  return [edit(broken, 'Remove the spaces around =', [{ range, newText: '=' }])]
}

/** Writes `=` where `:` stands. */
export const withEquals: Fix = (broken) => {
  const text = String(broken.document)
  const from = toOffset(text, { line: broken.diagnostic.range.start.line, character: 0 })
  const found = /^(\s*[A-Za-z_]\w*)\s*:\s*/.exec(text.slice(from).split('\n', 1)[0]!)
  if (found === null) return []
  const range = toRange(text, from + found[1]!.length, from + found[0].length)
  return [edit(broken, 'Write = in place of :', [{ range, newText: '=' }])]
}
