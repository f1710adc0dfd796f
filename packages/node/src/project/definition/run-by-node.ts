import { loadCommandLoader } from './command-loader.ts'
import { unwrapExport } from './exported.ts'
import { explainTypescript, isPackageMissing, needsLoader } from './needs-loader.ts'

const { pathToFileURL } = process.getBuiltinModule('node:url')

/**
 * Runs a definition as Node itself loads modules, or whatever loader the program was started with. Where that knows no TypeScript, as
 * Node before 22.18, the loader of the command does it, if that is installed.
 *
 * @throws {SettingsError} if neither is able to, saying what to do
 */
export async function runByNode(path: string, root: string): Promise<unknown> {
  try {
    return unwrapExport(await import(pathToFileURL(path).href))
  } catch (error) {
    const reason = explainTypescript(error)
    if (reason === null && !isPackageMissing(error)) throw error
    const loader = await loadCommandLoader(root)
    if (loader !== null) return loader.runDefinition(path, root)
    throw reason === null ? error : needsLoader(path, root, reason)
  }
}
