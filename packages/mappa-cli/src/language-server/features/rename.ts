import type { Declaration } from '@mappa/core/definition/definition'
import { hasPlace, nameFormer } from '@mappa/core/definition/former-value'
import { isPathKey, variableName } from '@mappa/core/definition/naming'
import { EXAMPLE_FILE } from '@mappa/core/layers/env-file-name'
import type { editorProblems } from '@mappa/core/problems/catalogue/editors'
import { editorProblem } from '@mappa/core/problems/catalogue/editors'
import type { ProblemDetails } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { isVariableName } from '@mappa/core/text/variable-name'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Position, Range, TextEdit, WorkspaceEdit } from 'vscode-languageserver'
import { makeSettingFinder } from '../../analysis/definition/parse.ts'
import type { Reader } from '../../analysis/usage/readers.ts'
import type { EditorProject } from '../editor-project.ts'
import { namesInText } from '../env-text.ts'
import { toRange, toUri } from '../places.ts'
import { findSetting, type NamedSetting } from '../setting-at.ts'

/** What of a place can be renamed: the name of a setting, or the last key of its path. */
export function findRenamable(project: EditorProject, file: string, text: string, position: Position): Range | null {
  const found = findSetting(project, file, text, position)
  if (found === null) return null
  // What holds a former value is called like the setting.
  if (!hasPlace(declared(project, found))) return null
  if (found.by !== 'path') return found.range
  // Of `settings.dome.key`, the last key.
  const key = declared(project, found).keys.at(-1)!
  const { end } = found.range
  return { start: { line: end.line, character: end.character - key.length }, end }
}

/**
 * Renames a setting: in all layer files, in the definition, in the example and in the code.
 *
 * @param given the new variable name, or the new key, by what stands at the position
 * @throws {SettingsError} where the name can't be one, is taken, or belongs to another group
 */
export function renameSetting(
  project: EditorProject,
  file: string,
  text: string,
  position: Position,
  given: string,
  readers: readonly Reader[],
): WorkspaceEdit | null {
  const found = findSetting(project, file, text, position)
  if (found === null) return null
  const declaration = declared(project, found)
  if (!hasPlace(declaration)) return null
  const renamed = found.by === 'name' ? byName(project, declaration, given) : byKey(project, declaration, given)
  const changes = new Map<string, TextEdit[]>()
  const add = (whole: string, edit: TextEdit): void => {
    const uri = toUri(whole)
    changes.set(uri, [...(changes.get(uri) ?? []), edit])
  }
  inDefinition(project, declaration, renamed, add)
  const former = project.definition.settings.find(({ formerOf }) => formerOf === declaration.path)
  for (const layer of [...project.layers, EXAMPLE_FILE]) {
    inLayer(project, layer, declaration.name, renamed.name, add)
    if (former !== undefined) inLayer(project, layer, former.name, nameFormer(renamed.name), add)
  }
  for (const reader of readers)
    if (reader.setting === declaration.path) inCode(project, reader, declaration, renamed, add)
  return { changes: Object.fromEntries(changes) }
}

/** What a setting is called afterwards. */
interface Renamed {
  readonly name: string
  /** The last key of its path. */
  readonly key: string
}

type Add = (whole: string, edit: TextEdit) => void

function declared({ definition }: EditorProject, { setting }: NamedSetting): Declaration {
  return definition.settings.find((each) => each.path === setting)!
}

/** A new variable name; the key follows from it, unless the definition gives the name itself. */
function byName(project: EditorProject, declaration: Declaration, name: string): Renamed {
  if (!isVariableName(name)) throw toRefusal('rename-no-name', { given: name })
  mustBeFree(project, declaration, name)
  if (typeof declaration.options['name'] === 'string') return { name, key: declaration.keys.at(-1)! }
  const group = variableName(declaration.keys.slice(0, -1), project.definition.prefix)
  const begin = declaration.keys.length === 1 ? group : `${group}_`
  const key = toKey(name.slice(begin.length))
  const follows = isPathKey(key) && variableName([...declaration.keys.slice(0, -1), key], project.definition.prefix)
  if (!name.startsWith(begin) || follows !== name)
    throw toRefusal('rename-other-group', { given: name, path: declaration.path, begin })
  return { name, key }
}

/** A new key; the variable name follows from it, unless the definition gives that itself. */
function byKey(project: EditorProject, declaration: Declaration, key: string): Renamed {
  if (!isPathKey(key)) throw toRefusal('rename-no-key', { given: key })
  const keys = [...declaration.keys.slice(0, -1), key]
  const isTaken = project.definition.settings.some(({ path: own }) => `${own}.`.startsWith(`${keys.join('.')}.`))
  if (isTaken && key !== declaration.keys.at(-1)) throw toRefusal('rename-path-taken', { path: keys.join('.') })
  const given = declaration.options['name']
  const name = typeof given === 'string' ? given : variableName(keys, project.definition.prefix)
  mustBeFree(project, declaration, name)
  return { name, key }
}

function mustBeFree({ definition }: EditorProject, declaration: Declaration, name: string): void {
  const other = definition.settings.find(
    (each) => each !== declaration && (each.name === name || each.formerly.includes(name)),
  )
  if (other !== undefined) throw toRefusal('rename-name-taken', { given: name, path: other.path })
}

/** `MOTOR_SPEED` as a key: `motorSpeed`. */
function toKey(words: string): string {
  return words.toLowerCase().replace(/_+([a-z0-9])/g, (_, letter: string) => letter.toUpperCase())
}

function inDefinition(project: EditorProject, { keys }: Declaration, { key, name }: Renamed, add: Add): void {
  const { definitionFile, root } = project
  const text = project.getText(definitionFile)
  const place = text === null ? null : makeSettingFinder(text, toRelativePath(root, definitionFile))(keys)
  if (text === null || place === null)
    throw toRefusal('rename-not-found', { path: keys.join('.'), file: toRelativePath(root, definitionFile) })
  if (place.name === null) add(definitionFile, { range: toRange(text, place.key.start, place.key.end), newText: key })
  else add(definitionFile, { range: toRange(text, place.name.start, place.name.end), newText: name })
  const to = [...keys.slice(0, -1), key].join('.')
  if (keys.length > 1 && to !== keys.join('.')) inRules(text, keys.join('.'), to, definitionFile, add)
  if (place.name !== null && key !== keys.at(-1))
    add(definitionFile, { range: toRange(text, place.key.start, place.key.end), newText: key })
}

/** Rules of other settings name the path as well: `requiredIf: { 'dome.motors': true }`. */
function inRules(text: string, from: string, to: string, whole: string, add: Add): void {
  const path = from.replaceAll('.', '\\.')
  for (const { index } of text.matchAll(new RegExp(`(?<=(['"]))${path}(?=\\1)`, 'g')))
    add(whole, { range: toRange(text, index, index + from.length), newText: to })
}

function inLayer(project: EditorProject, file: string, from: string, to: string, add: Add): void {
  const text = project.getText(file)
  if (text === null || from === to) return
  const whole = path.join(project.root, file)
  // The example has names in comments too, which stand for settings with defaults.
  if (file === EXAMPLE_FILE) {
    for (const { index } of text.matchAll(new RegExp(`(?<![A-Za-z0-9_])${from}(?![A-Za-z0-9_])`, 'g')))
      add(whole, { range: toRange(text, index, index + from.length), newText: to })
    return
  }
  for (const { name, start, end } of namesInText(project.document(file)))
    if (name === from) add(whole, { range: toRange(text, start, end), newText: to })
}

function inCode(
  project: EditorProject,
  reader: Reader,
  { keys, name: from }: Declaration,
  { key, name }: Renamed,
  add: Add,
): void {
  const { by, column, endColumn, file, line, text } = reader
  if (by === 'name' && text !== from) return
  const last = keys.at(-1)!
  const start = by === 'name' ? column : endColumn - last.length
  const newText = by === 'name' ? name : key
  if (newText === (by === 'name' ? from : last)) return
  add(path.resolve(project.root, file), {
    range: { start: { line: line - 1, character: start - 1 }, end: { line: line - 1, character: endColumn - 1 } },
    newText,
  })
}

function toRefusal<Code extends keyof ReturnType<typeof editorProblems>>(code: Code, details: ProblemDetails<Code>) {
  return settingsError(editorProblem(code, details))
}
