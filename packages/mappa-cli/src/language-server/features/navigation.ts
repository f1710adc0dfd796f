import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Location, Position } from 'vscode-languageserver'
import { settingFinder } from '../../analysis/definition/parse.ts'
import type { Reader } from '../../analysis/usage/readers.ts'
import type { EditorProject } from '../editor-project.ts'
import { namesInText } from '../env-text.ts'
import { locationOf, rangeOf, uriOf } from '../places.ts'
import { settingAt } from '../setting-at.ts'

/** Where a setting is defined; from code and from the definition, the lines of its values come first. */
export function definitionsAt(project: EditorProject, file: string, text: string, position: Position): Location[] {
  const found = settingAt(project, file, text, position)
  if (found === null) return []
  const ofDefinition = placeInDefinition(project, found.setting)
  const own = ofDefinition === null ? [] : [ofDefinition]
  if (project.isLayer(file)) return own
  const values = valuePlaces(project, found.setting)
  return found.by === 'key' || values.length > 0 ? values : own
}

/** Everything that names a setting: readers in the code, values and references in layer files, the definition. */
export function referencesAt(
  project: EditorProject,
  file: string,
  text: string,
  position: Position,
  readers: readonly Reader[],
): Location[] {
  const found = settingAt(project, file, text, position)
  if (found === null) return []
  const ofDefinition = placeInDefinition(project, found.setting)
  return [
    ...readers.filter(({ setting }) => setting === found.setting).map((each) => locationOf(project.root, each)),
    ...namePlaces(project, found.setting),
    ...(ofDefinition === null ? [] : [ofDefinition]),
  ]
}

/** The key of a setting in the definition; `null` where it does not stand there as it is. */
export function placeInDefinition(project: EditorProject, setting: string): Location | null {
  const { definitionFile, root, definition } = project
  const text = project.textOf(definitionFile)
  const declaration = definition.settings.find(({ path: own }) => own === setting)
  if (text === null || declaration === undefined) return null
  const place = settingFinder(text, toRelativePath(root, definitionFile))(declaration.keys)
  return place === null ? null : { uri: uriOf(definitionFile), range: rangeOf(text, place.key.start, place.key.end) }
}

/** Every name of a setting in the layer files: of entries, and of references. */
export function namePlaces(project: EditorProject, setting: string): Location[] {
  const names = namesOf(project, setting)
  return project.layers.flatMap((file) => {
    const document = project.document(file)
    const text = String(document)
    return namesInText(document)
      .filter(({ name }) => names.includes(name))
      .map(({ start, end }) => ({ uri: uriOf(path.join(project.root, file)), range: rangeOf(text, start, end) }))
  })
}

/** The lines of its values, without references. */
function valuePlaces(project: EditorProject, setting: string): Location[] {
  const names = namesOf(project, setting)
  return project.layers.flatMap((file) => {
    const document = project.document(file)
    const text = String(document)
    return document.entries
      .filter(({ name }) => names.includes(name))
      .map(({ start, nameEnd }) => ({
        uri: uriOf(path.join(project.root, file)),
        range: rangeOf(text, start, nameEnd),
      }))
  })
}

function namesOf({ definition }: EditorProject, setting: string): readonly string[] {
  const declaration = definition.settings.find(({ path: own }) => own === setting)
  return declaration === undefined ? [] : [declaration.name, ...declaration.formerly]
}
