import type { Declaration } from '@mappa/core/definition/definition'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Position, Range } from 'vscode-languageserver'
import { makeSettingFinder } from '../analysis/definition/parse.ts'
import { type Reader, ReaderSearch } from '../analysis/usage/readers.ts'
import type { EditorProject } from './editor-project.ts'
import { atPosition } from './env-text.ts'
import { toOffset, toRange } from './places.ts'

/** A setting that is named at a place, and what stands there. */
export interface NamedSetting {
  /** Its path. */
  readonly setting: string
  readonly range: Range
  /** How it is named there: by the variable name, by its path in code, or as a key of the definition. */
  readonly by: 'name' | 'path' | 'key'
}

/**
 * The setting that is named at a position: in a layer file, in the definition, or in code.
 *
 * @param file the path of the document, relative to the project
 */
export function findSetting(
  project: EditorProject,
  file: string,
  text: string,
  position: Position,
): NamedSetting | null {
  if (project.isLayer(file)) return inEnvFile(project, file, text, position)
  if (file === toRelativePath(project.root, project.definitionFile)) return inDefinition(project, file, text, position)
  const reader = new ReaderSearch(project.definition).in(text, file).find((each) => covers(each, position))
  return reader === undefined ? null : { setting: reader.setting, range: toReaderRange(reader), by: reader.by }
}

/** The setting with a variable name, or a former one. */
export function getDeclaration({ definition }: EditorProject, name: string): Declaration | undefined {
  return definition.settings.find((each) => each.name === name || each.formerly.includes(name))
}

/** Where a reader stands. */
export function toReaderRange({ line, column, endColumn }: Reader): Range {
  return {
    start: { line: line - 1, character: column - 1 },
    end: { line: line - 1, character: endColumn - 1 },
  }
}

function inEnvFile(project: EditorProject, file: string, text: string, position: Position): NamedSetting | null {
  const at = atPosition(project.document(file), position)
  if (at === null) return null
  if (at.what === 'value') {
    const { name, valueStart, valueEnd } = at.entry
    const declaration = getDeclaration(project, name)
    return declaration === undefined
      ? null
      : { setting: declaration.path, range: toRange(text, valueStart, valueEnd), by: 'name' }
  }
  const { name, start, end } = at.found
  const declaration = getDeclaration(project, name)
  return declaration === undefined ? null : { setting: declaration.path, range: toRange(text, start, end), by: 'name' }
}

function inDefinition({ definition }: EditorProject, file: string, text: string, position: Position) {
  const offset = toOffset(text, position)
  const find = makeSettingFinder(text, file)
  for (const { path, keys } of definition.settings) {
    const place = find(keys)
    for (const [by, piece] of [
      ['key', place?.key],
      ['name', place?.name],
    ] as const)
      if (piece != null && offset >= piece.start && offset <= piece.end)
        return { setting: path, range: toRange(text, piece.start, piece.end), by }
  }
  return null
}

function covers({ line, column, endColumn }: Reader, position: Position): boolean {
  return position.line === line - 1 && position.character >= column - 1 && position.character <= endColumn - 1
}
