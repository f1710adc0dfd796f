import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import type { problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../../fs/builtin.ts'
import { mustBeRegular } from '../../fs/regular-file.ts'
import { readNamedDefinition } from '../named-definition.ts'

const { existsSync } = fs
const { join, resolve } = path

/** Where a definition is looked for, in this order, relative to the root of the project. */
export const DEFINITION_FILES: readonly string[] = ['', 'src/'].flatMap((directory) =>
  ['ts', 'mts', 'js', 'mjs', 'json'].map((ending) => `${directory}settings.definition.${ending}`),
)

/**
 * Finds the definition of a project: the file asked for, else the one that `package.json` names under
 * `"mappa": { "settings": "..." }`, else `settings.definition.*` in the root or in `src/`.
 *
 * @param root the directory of the project
 * @param asked a path given explicitly, relative to `from`; and what it was given as, `--settings` if left out
 * @returns the absolute path of the file
 * @throws {SettingsError} where there is none
 */
export function findDefinition(root: string, asked?: { file: string; from: string; named?: string }): string {
  if (asked !== undefined)
    return requireExisting(resolve(asked.from, asked.file), asked.file, asked.named ?? '--settings')
  mustBeRegular(join(root, 'package.json'), 'package.json')
  const named = readNamedDefinition(root)
  if (named !== null) return requireExisting(resolve(root, named), named, 'package.json')
  const found = DEFINITION_FILES.find((file) => existsSync(join(root, file)))
  if (found !== undefined) return requireExisting(join(root, found), found, 'its name')
  const looked = ['settings.definition.ts', '.mts', '.js', '.mjs', `.json in ${root} and in its directory src`]
  throw notFound(definitionFileProblem('definition-not-found', { looked }))
}

function requireExisting(path: string, file: string, from: string): string {
  mustBeRegular(path, file)
  if (existsSync(path)) return path
  throw notFound(definitionFileProblem('definition-file-missing', { file, from }, { file }))
}

function notFound(why: ReturnType<typeof problem>): SettingsError {
  return new SettingsError({ stage: null, problems: [why] })
}
