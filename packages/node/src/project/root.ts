import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import { problem } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../fs/builtin.ts'
import { readNamedDefinition } from './named-definition.ts'

const { dirname, join, relative, resolve, sep } = path
const { fileURLToPath } = process.getBuiltinModule('node:url')

/** A definition that also marks the directory of a project, for programs in other languages, which have no `package.json`. */
const MARK = 'settings.definition.json'

/**
 * The directory of a project: the nearest one with a `package.json`, or with a definition in JSON that no `package.json` above claims
 * as its own; at or above a directory; or that directory itself if there is none. A program finds its files this way also when it is
 * started from a directory within.
 *
 * @param from the directory to begin with
 */
export function findRoot(from: string): string {
  const start = resolve(from)
  let marked: string | null = null
  for (let directory = start; ; directory = dirname(directory)) {
    const found = isThere(join(directory, 'package.json'))
    if (found === true) return marked === null || claims(directory, marked) ? directory : marked
    if (marked === null && isThere(join(directory, MARK)) === true) marked = directory
    // Where nothing may be read, nothing further up may be either.
    if (found === null || directory === dirname(directory)) return marked ?? start
  }
}

/** True if a package has the definition of another directory: in its `src`, or where its `package.json` says. */
function claims(directory: string, marked: string): boolean {
  // Only a file is read: a pipe would never end.
  const isFile = fs.statSync(join(directory, 'package.json')).isFile()
  const named = isFile ? readNamedDefinition(directory) : null
  return join(directory, named ?? join('src', MARK)) === join(marked, MARK)
}

/** The directory of a project, and what decided it, as text. */
export interface ChosenRoot {
  readonly root: string
  readonly from: string
}

/**
 * Chooses the directory of a project: the one that was given; else the nearest one with a `package.json`, at or above the module
 * whose URL was given, or the current directory.
 *
 * @param given a directory, or a `file:` URL (RFC 8089) such as `import.meta.url`, from which a program finds its files wherever it is
 *   started
 * @throws {SettingsError} if the current directory was deleted, or a URL is none of a file
 */
export function chooseRoot(given: string | URL | undefined): ChosenRoot {
  if (given !== undefined) {
    if (typeof given === 'string' && !/^[a-z][a-z\d+.-]+:/i.test(given))
      return { root: resolve(given), from: 'the option root' }
    const root = leaveOutput(findRoot(dirname(getPath(given))))
    // Where only the built files were copied, there is none above them.
    if (isThere(join(root, 'package.json')) === true) return { root, from: 'the package.json above the module' }
  }
  const root = findRoot(getCurrentDirectory())
  const mark = ['package.json', MARK].find((file) => isThere(join(root, file)) === true)
  return { root, from: mark === undefined ? 'the current directory' : `the nearest ${mark}` }
}

/**
 * The directory of the project of a module, as `root: import.meta.url` finds it: the nearest one with a `package.json`, at or above the
 * module, but for one that a build wrote; else that of the current directory.
 *
 * @param module a `file:` URL (RFC 8089) such as `import.meta.url`
 * @param directory a directory relative to that one
 * @throws {SettingsError} if the URL is none of a file, or the current directory was deleted
 * @example
 * ```ts
 * loadSettings(definition, { root: findProjectRoot(import.meta.url, '../shared') })
 * ```
 */
export function findProjectRoot(module: string | URL, directory = ''): string {
  return resolve(chooseRoot(module).root, directory)
}

/** Directories that builds write, some with a `package.json` of their own. */
const OUTPUT = /^(?:\.output|\.next|\.nuxt|\.svelte-kit|build|dist|out|output)$/

/** The project that a directory with a `package.json` was built from, where a build wrote it; else that directory. */
function leaveOutput(root: string): string {
  const above = findRoot(dirname(root))
  const [first = ''] = relative(above, root).split(sep)
  const isOutput = above !== root && OUTPUT.test(first) && isThere(join(above, 'package.json')) === true
  return isOutput && !isProject(root) ? above : root
}

/** True for a directory that has layer files or a definition, as one that a build wrote does not. */
function isProject(root: string): boolean {
  const isMark = (name: string) => classifyEnvFile(name) !== null || name.startsWith('settings.definition.')
  return listNames(root).some(isMark) || readNamedDefinition(root) !== null
}

/** The names in a directory; none where this process may not list it. */
function listNames(directory: string): readonly string[] {
  try {
    return fs.readdirSync(directory)
  } catch {
    return []
  }
}

function getPath(given: unknown): string {
  try {
    return fileURLToPath(given as string | URL)
  } catch {
    const problems = [problem('root-no-directory', { given: JSON.stringify(String(given).slice(0, 80)) })]
    throw new SettingsError({ title: 'Settings', stage: null, problems })
  }
}

/** True if a file exists; `null` if this process may not know, as under the permission model of Node. */
function isThere(file: string): boolean | null {
  try {
    return fs.existsSync(file)
  } catch {
    return null
  }
}

/**
 * The current directory.
 *
 * @throws {SettingsError} if it was deleted or may not be read
 */
export function getCurrentDirectory(): string {
  try {
    return process.cwd()
  } catch {
    throw settingsError(problem('directory-gone', {}))
  }
}
