import { type Definition, isDefinition } from '@mappa/core/definition/definition'
import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs } from '../../fs/builtin.ts'
import { toRelativePath } from '../../fs/places.ts'
import { loadingError, notExported } from './loading-error.ts'

/**
 * Runs a module and gives what it exports by default. Who loads a definition brings one along: Node itself for programs, Vite for the
 * plugin, the loader of the command for commands.
 *
 * @param path the absolute path of the file, TypeScript or JavaScript
 * @param root the directory of the project
 */
export type ModuleRunner = (path: string, root: string) => Promise<unknown>

/**
 * Loads a definition from its file: TypeScript, JavaScript or JSON.
 *
 * @param file the absolute path of the file
 * @param root the directory of the project
 * @param run what runs it, unless it is JSON
 * @param text a source to take instead of what the file holds, to try it before it is written; `run` has to know it by itself
 * @throws {SettingsError} if the file throws, exports something else, or holds a wrong definition
 */
export async function loadDefinition(
  file: string,
  root: string,
  run: ModuleRunner,
  text?: string,
): Promise<Definition> {
  const shown = toRelativePath(root, file)
  let exported: unknown
  try {
    exported = file.endsWith('.json') ? await fromJson(file, shown, text) : await settleOrRefuse(run(file, root), shown)
  } catch (error) {
    throw loadingError(error, file, shown)
  }
  if (isDefinition(exported)) return exported
  throw notExported(exported, shown)
}

async function fromJson(file: string, shown: string, text = fs.readFileSync(file, 'utf8')): Promise<Definition> {
  try {
    const { definitionFromJson } = await import('@mappa/core/definition/json')
    return definitionFromJson(JSON.parse(text))
  } catch {
    // Once more by a parser that knows where in the file everything is.
    const { readJsonDefinition: definitionOfJsonFile } = await import('../json-definition/json-file.ts')
    return definitionOfJsonFile(text, shown)
  }
}

/** What a promise gives; refuses one that nothing is left to settle, where Node would end in silence. */
async function settleOrRefuse<T>(promise: Promise<T>, file: string): Promise<T> {
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
