import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import type { Problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../../fs/builtin.ts'
import { findIrregularity } from '../../fs/regular-file.ts'
import { readNamedDefinition } from '../named-definition.ts'

const { existsSync } = fs
const { join, resolve } = path

/** Where a definition is looked for, in this order, relative to the root of the project. */
export const DEFINITION_FILES: readonly string[] = ['', 'src/'].flatMap((directory) =>
  ['ts', 'mts', 'js', 'mjs', 'json'].map((ending) => `${directory}settings.definition.${ending}`),
)

/** A definition that somebody asks for by its path. */
export interface AskedDefinition {
  /** The path, absolute or relative to `from`. */
  readonly file: string
  /** An absolute path. */
  readonly from: string
  /** What it was given as; `--settings` if left out. */
  readonly named?: string
}

/**
 * What looking for a definition comes to: `found`, the absolute path of its file; `none`, where the project has none; `unusable`, where
 * one is named that is not there, or is no file.
 */
export type DefinitionSearch =
  | { readonly kind: 'found'; readonly file: string }
  | { readonly kind: 'none' | 'unusable'; readonly problem: Problem }

/**
 * Looks for the definition of a project: the file asked for, else the one that `package.json` names under
 * `"mappa": { "settings": "..." }`, else `settings.definition.*` in the root or in `src/`.
 *
 * @param root the directory of the project
 */
export function findDefinition(root: string, asked?: AskedDefinition): DefinitionSearch {
  if (asked !== undefined) return findNamed(resolve(asked.from, asked.file), asked.file, asked.named ?? '--settings')
  const manifest = findIrregularity(join(root, 'package.json'), 'package.json')
  if (manifest !== null) return { kind: 'unusable', problem: manifest }
  const named = readNamedDefinition(root)
  if (named !== null) return findNamed(resolve(root, named), named, 'package.json')
  const found = DEFINITION_FILES.find((file) => existsSync(join(root, file)))
  if (found !== undefined) return findNamed(join(root, found), found, 'its name')
  const looked = ['settings.definition.ts', '.mts', '.js', '.mjs', `.json in ${root} and in its directory src`]
  return { kind: 'none', problem: definitionFileProblem('definition-not-found', { looked }) }
}

/**
 * The file of a definition that has to be there.
 *
 * @returns its absolute path
 * @throws {SettingsError} where there is none, or it is no file
 */
export function requireDefinition(root: string, asked?: AskedDefinition): string {
  return requireFound(findDefinition(root, asked))
}

/** The same of a search that was made already. */
export function requireFound(search: DefinitionSearch): string {
  if (search.kind === 'found') return search.file
  throw settingsError(search.problem)
}

function findNamed(file: string, shown: string, from: string): DefinitionSearch {
  const irregularity = findIrregularity(file, shown)
  if (irregularity !== null) return { kind: 'unusable', problem: irregularity }
  if (existsSync(file)) return { kind: 'found', file }
  const problem = definitionFileProblem('definition-file-missing', { file: shown, from }, { file: shown })
  return { kind: 'unusable', problem }
}
