import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Location, Position } from 'vscode-languageserver'
import { makeSettingFinder } from '../../analysis/definition/parse.ts'
import type { Reader } from '../../analysis/usage/readers.ts'
import type { EditorProject } from '../editor-project.ts'
import { namesInText } from '../env-text.ts'
import { toLocation, toRange, toUri } from '../places.ts'
import { findSetting } from '../setting-at.ts'

/** Where a setting is defined; from code and from the definition, the lines of its values come first. */
export function findDefinitions(project: EditorProject, file: string, text: string, position: Position): Location[] {
  const found = findSetting(project, file, text, position)
  if (found === null) return []
  const ofDefinition = placeInDefinition(project, found.setting)
  const own = ofDefinition === null ? [] : [ofDefinition]
  if (project.isLayer(file)) return own
  const values = listValuePlaces(project, found.setting)
  return found.by === 'key' || values.length > 0 ? values : own
}

/** Everything that names a setting: readers in the code, values and references in layer files, the definition. */
export function findReferences(
  project: EditorProject,
  file: string,
  text: string,
  position: Position,
  readers: readonly Reader[],
): Location[] {
  const found = findSetting(project, file, text, position)
  if (found === null) return []
  const ofDefinition = placeInDefinition(project, found.setting)
  return [
    ...readers.filter(({ setting }) => setting === found.setting).map((each) => toLocation(project.root, each)),
    ...namePlaces(project, found.setting),
    ...(ofDefinition === null ? [] : [ofDefinition]),
  ]
}

/** The key of a setting in the definition; `null` where it does not stand there as it is. */
export function placeInDefinition(project: EditorProject, setting: string): Location | null {
  const { definitionFile, root, definition } = project
  const text = project.getText(definitionFile)
  const declaration = definition.settings.find(({ path: own }) => own === setting)
  if (text === null || declaration === undefined) return null
  const place = makeSettingFinder(text, toRelativePath(root, definitionFile))(declaration.keys)
  return place === null ? null : { uri: toUri(definitionFile), range: toRange(text, place.key.start, place.key.end) }
}

/** Every name of a setting in the layer files: of entries, and of references. */
export function namePlaces(project: EditorProject, setting: string): Location[] {
  const names = listNames(project, setting)
  return project.layers.flatMap((file) => {
    const document = project.document(file)
    const text = String(document)
    return namesInText(document)
      .filter(({ name }) => names.includes(name))
      .map(({ start, end }) => ({ uri: toUri(path.join(project.root, file)), range: toRange(text, start, end) }))
  })
}

/** The lines of its values, without references. */
function listValuePlaces(project: EditorProject, setting: string): Location[] {
  const names = listNames(project, setting)
  return project.layers.flatMap((file) => {
    const document = project.document(file)
    const text = String(document)
    return document.entries
      .filter(({ name }) => names.includes(name))
      .map(({ start, nameEnd }) => ({
        uri: toUri(path.join(project.root, file)),
        range: toRange(text, start, nameEnd),
      }))
  })
}

function listNames({ definition }: EditorProject, setting: string): readonly string[] {
  const declaration = definition.settings.find(({ path: own }) => own === setting)
  return declaration === undefined ? [] : [declaration.name, ...declaration.formerly]
}
