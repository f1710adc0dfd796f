import { fileURLToPath, pathToFileURL } from 'node:url'
import { type Definition, isDefinition } from '../../core/definition/definition.ts'
import { definitionFileProblem } from '../../core/problems/of-commands.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { fs, path } from '../builtin.ts'
import { runCompiled } from './compile.ts'
import { definitionOfJsonFile } from './json-file.ts'
import { loadingError, notExported } from './loading-error.ts'

const { readFileSync } = fs
const { relative } = path

/**
 * Loads a definition from its file: TypeScript, JavaScript or JSON.
 *
 * @param path the absolute path of the file
 * @param root the directory of the project
 * @param text a source to take instead of what the file holds, to try it before it is written
 * @throws {SettingsError} where the file throws, exports something else, or holds a wrong definition
 */
export async function loadDefinition(path: string, root: string, text?: string): Promise<Definition> {
  const file = relative(root, path).replaceAll('\\', '/')
  let exported: unknown
  try {
    exported = path.endsWith('.json')
      ? definitionOfJsonFile(text ?? readFileSync(path, 'utf8'), file)
      : await settled(run(path, root, text), file)
  } catch (error) {
    throw loadingError(error, path, file)
  }
  if (isDefinition(exported)) return exported
  throw notExported(exported, file)
}

/** What a promise gives; refuses one that nothing is left to settle, where Node would end in silence. */
async function settled<T>(promise: Promise<T>, file: string): Promise<T> {
  let idle = () => {}
  const never = new Promise<never>((_, refuse) => {
    idle = () => {
      const problems = [definitionFileProblem('definition-unsettled', { file }, { file })]
      refuse(new SettingsError({ stage: null, problems }))
    }
  })
  process.once('beforeExit', idle)
  try {
    return await Promise.race([promise, never])
  } finally {
    process.removeListener('beforeExit', idle)
  }
}

async function run(path: string, root: string, text: string | undefined): Promise<unknown> {
  if (text === undefined && /\.[cm]?js$/.test(path)) {
    try {
      return ((await import(pathToFileURL(path).href)) as { default?: unknown }).default
    } catch (error) {
      if (!isPackageMissing(error)) throw error
    }
  }
  const compiled = await runCompiled(path, root, text)
  // What CommonJS exports is its default.
  if (compiled !== null) return isDefinition(compiled) ? compiled : compiled.default
  const { createJiti } = await import('jiti')
  // The definition gets the same package that reads it, wherever that is installed.
  const jiti = createJiti(path, { alias: { mappa: fileURLToPath(import.meta.resolve('mappa')) }, fsCache: false })
  if (text === undefined) return jiti.import(path, { default: true })
  const module = (await jiti.evalModule(text, { filename: path, async: true })) as { default?: unknown }
  return isDefinition(module) ? module : module.default
}

/** True where this package is not installed beside the definition; the one that reads it will do. */
function isPackageMissing(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  return code === 'ERR_MODULE_NOT_FOUND' && /package 'mappa'/.test(String(message))
}
