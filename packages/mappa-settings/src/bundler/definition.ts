import { statSync } from 'node:fs'
import { dirname, isAbsolute, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type Definition, isDefinition } from '@mappa/core/definition/definition'
import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { requireDefinition } from '@mappa/node/project/definition/find'
import { type DefinitionParts, forgetModules, listDefinitionParts } from '@mappa/node/project/definition/imports'
import { chooseRoot, findRoot } from '@mappa/node/project/root'
import { type LoadedNow, loadDefinitionNow } from './load-now.ts'

/** What tells a function of `mappa-settings/bundler` which settings there are: a definition, the path or `file:` URL of one, or of its project. */
export type SettingsOrPath = Definition | string | URL

/** A definition, and the directory of its project. */
export interface ProjectDefinition {
  readonly definition: Definition
  readonly root: string
}

/** Definitions by file, and the state of all files that they are made of. */
const loaded = new Map<string, LoadedNow & { readonly state: string }>()

/**
 * Finds a definition and loads it, and again when one of its files has changed.
 *
 * @param settings a definition; a path of one, or of a directory with one, relative to `root`
 * @param root the directory of the project; the nearest one with a `package.json` at or above the definition, or the current
 *   directory where no path is given
 * @throws {SettingsError} where there is no definition, or a wrong one
 */
export function loadProjectDefinition(settings: SettingsOrPath | undefined, root?: string | URL): ProjectDefinition {
  if (isDefinition(settings)) return { definition: settings, root: chooseRoot(root).root }
  if (settings === undefined) {
    const { root: found } = chooseRoot(root)
    return { definition: loadFresh(requireDefinition(found), found), root: found }
  }
  if (typeof settings !== 'string' && !(settings instanceof URL))
    throw new TypeError('The settings must be a definition, or the path of a file or directory with one.')
  const given = String(settings)
  if (/^(?!file:)[a-z][a-z\d+.-]+:\/\//i.test(given))
    throw new TypeError(`The definition can't be read from ${given.slice(0, 80)}: a file: URL or a path is needed.`)
  const asked = given.startsWith('file:') ? fileURLToPath(given) : given
  const path = isAbsolute(asked) ? asked : resolve(chooseRoot(root).root, asked)
  if (isDirectory(path)) {
    const found = root === undefined ? findRoot(path) : chooseRoot(root).root
    return { definition: loadFresh(requireDefinition(path), found), root: found }
  }
  const found = root === undefined ? findRoot(dirname(path)) : chooseRoot(root).root
  return {
    definition: loadFresh(requireDefinition(found, { file: path, from: found, named: 'the argument settings' }), found),
    root: found,
  }
}

function loadFresh(file: string, root: string): Definition {
  const parts = listDefinitionParts(file)
  const state = getState(parts)
  const known = loaded.get(file)
  // What it reads by itself may have changed too, so it is run again wherever that is possible.
  const mayDiffer = parts.unknown.length > 0 && known?.canReload === true
  if (known?.state === state && !mayDiffer) return known.definition
  // Node keeps a module for as long as it runs; a value from before would be wrong in silence.
  if (known?.canReload === false) throw toChangedError(relative(root, file))
  if (known !== undefined) forgetModules(parts)
  const now = loadDefinitionNow(file, root)
  loaded.set(file, { state, ...now })
  return now.definition
}

function toChangedError(file: string): SettingsError {
  return new SettingsError({
    stage: null,
    problems: [definitionFileProblem('definition-changed', { file }, { file })],
  })
}

function getState({ files }: DefinitionParts): string {
  return files
    .map((each) => {
      const stats = statSync(each, { throwIfNoEntry: false })
      return `${each}:${stats?.mtimeMs}:${stats?.size}`
    })
    .join('\n')
}

function isDirectory(path: string): boolean {
  return statSync(path, { throwIfNoEntry: false })?.isDirectory() === true
}
