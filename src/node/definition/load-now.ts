import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { type Definition, isDefinition } from '../../core/definition/definition.ts'
import { fs, path } from '../builtin.ts'
import { definitionOfJsonFile } from './json-file.ts'
import { loadingError, notExported } from './loading-error.ts'

const { readFileSync } = fs
const { relative } = path

/**
 * Loads a definition at once, for configurations of bundlers that can't wait for a promise. A definition that waits itself, with
 * `await` at its top, can't be loaded this way, and neither can what it imports.
 *
 * @param path the absolute path of the file: TypeScript, JavaScript or JSON
 * @param root the directory of the project
 * @throws {SettingsError} where the file throws, exports something else, or holds a wrong definition
 */
export function loadDefinitionNow(path: string, root: string): Definition {
  const file = relative(root, path).replaceAll('\\', '/')
  let exported: unknown
  try {
    exported = path.endsWith('.json') ? definitionOfJsonFile(readFileSync(path, 'utf8'), file) : run(path)
  } catch (error) {
    throw loadingError(error, path, file)
  }
  if (isDefinition(exported)) return exported
  throw notExported(exported, file)
}

function run(path: string): unknown {
  const { createJiti } = createRequire(import.meta.url)('jiti') as typeof import('jiti')
  // The definition gets the same package that reads it, and is read again each time, as a bundler that watches files needs it.
  const alias = { mappa: fileURLToPath(import.meta.resolve('mappa')) }
  const module = createJiti(path, { alias, fsCache: false, moduleCache: false })(path) as { default?: unknown }
  return isDefinition(module) ? module : module.default
}
