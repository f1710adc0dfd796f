import type { Definition } from '@mappa/core/definition/definition'
import { loadDefinition as load } from '@mappa/node/project/definition/load'
import { runDefinition } from './run.ts'

/**
 * Loads a definition with the loader of the command.
 *
 * @param file the absolute path of the file
 * @param root the directory of the project
 * @param text a source to take instead of what the file holds, to try it before it is written
 * @param again true if this process loaded it before, and it may have changed since
 * @throws {SettingsError} if the file throws, exports something else, or holds a wrong definition
 */
export function loadDefinition(file: string, root: string, text?: string, again = false): Promise<Definition> {
  return load(file, root, () => runDefinition(file, root, text, again), text)
}
