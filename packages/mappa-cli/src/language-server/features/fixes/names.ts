import { namesInText } from '../../env-text.ts'
import { toRange } from '../../places.ts'
import { type Broken, edit, type Fix, findEntry } from './fix.ts'

/** Renames an entry to what was probably meant. */
export const renamed: Fix = (broken) => fixName(broken, broken.data.near)

/** Renames an entry from a former name to the one of its setting. */
export const renamedToSetting: Fix = (broken) => {
  const { project, data } = broken
  return fixName(broken, project.definition.settings.find(({ path }) => path === data.setting)?.name ?? null)
}

/** Renames what a value refers to. */
export const referenceRenamed: Fix = (broken) => {
  const { data, diagnostic, document } = broken
  const { near } = data
  const text = String(document)
  if (near === null) return []
  const found = namesInText(document).filter(({ name, start }) => {
    const line = text.slice(0, start).split('\n').length - 1
    const isHere = line >= diagnostic.range.start.line && line <= diagnostic.range.end.line
    return isHere && name !== near && diagnostic.message.toString().includes(`refers to ${name},`)
  })
  if (found.length === 0) return []
  const edits = found.map(({ start, end }) => ({ range: toRange(text, start, end), newText: near }))
  return [edit(broken, `Refer to ${near}`, edits)]
}

/** Writes the name that was probably meant in place of a text that is none. */
export const nameWritten: Fix = (broken) => {
  const { data, diagnostic, document } = broken
  if (data.near === null) return []
  const text = String(document).split('\n')[diagnostic.range.start.line] ?? ''
  const equals = text.indexOf('=')
  const line = diagnostic.range.start.line
  const range = { start: { line, character: 0 }, end: { line, character: equals < 0 ? text.trimEnd().length : equals } }
  return [edit(broken, `Write ${data.near}`, [{ range, newText: equals < 0 ? `${data.near}=` : data.near }])]
}

function fixName(broken: Broken, name: string | null) {
  const entry = findEntry(broken)
  if (name === null || entry === undefined) return []
  const range = toRange(String(broken.document), entry.start, entry.nameEnd)
  return [edit(broken, `Rename ${entry.name} to ${name}`, [{ range, newText: name }])]
}
