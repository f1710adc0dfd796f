import { createRequire } from 'node:module'
import { type Definition, isDefinition } from '@mappa/core/definition/definition'
import { fs } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { loadCommandLoaderNow } from '@mappa/node/project/definition/command-loader'
import { unwrapExport } from '@mappa/node/project/definition/exported'
import { loadingError, notExported } from '@mappa/node/project/definition/loading-error'
import { explainTypescript, needsLoader } from '@mappa/node/project/definition/needs-loader'
import { readJsonDefinition } from '@mappa/node/project/json-definition/json-file'

/** A definition that was loaded, and whether it can be read again when its files change. */
export interface LoadedNow {
  readonly definition: Definition
  readonly canReload: boolean
}

/**
 * Loads a definition at once, for configurations of bundlers that can't wait for a promise. A definition that waits itself, with
 * `await` at its top, can't be loaded this way, and neither can what it imports.
 *
 * @param file the absolute path of the file: TypeScript, JavaScript or JSON
 * @param root the directory of the project
 * @throws {SettingsError} if the file throws, exports something else, or holds a wrong definition
 */
export function loadDefinitionNow(file: string, root: string): LoadedNow {
  const shown = toRelativePath(root, file)
  let exported: unknown
  let canReload = true
  try {
    if (file.endsWith('.json')) exported = readJsonDefinition(fs.readFileSync(file, 'utf8'), shown)
    else {
      const loader = loadCommandLoaderNow(root)
      canReload = loader !== null
      exported = loader === null ? runByNodeNow(file, root) : loader.runDefinitionNow(file)
    }
  } catch (error) {
    throw loadingError(error, file, shown)
  }
  if (isDefinition(exported)) return { definition: exported, canReload }
  throw notExported(exported, shown)
}

function runByNodeNow(file: string, root: string): unknown {
  if (/\.[cm]?ts$/.test(file) && !loadsTypescript()) throw needsLoader(file, root, 'it does not load TypeScript')
  try {
    return unwrapExport(createRequire(file)(file) as object)
  } catch (error) {
    const reason = explainTypescript(error)
    throw reason === null ? error : needsLoader(file, root, reason)
  }
}

/** Asked first: what does not know TypeScript takes a required file of it for JavaScript. */
function loadsTypescript(): boolean {
  const { features, versions } = process as { features: { typescript?: unknown }; versions: Record<string, unknown> }
  return Boolean(features.typescript) || versions.bun !== undefined || versions.deno !== undefined
}
