import { problem } from '../core/problems/problem.ts'
import { SettingsError } from '../core/problems/settings-error.ts'
import { fs, path } from './builtin.ts'

const { dirname, join, resolve } = path

/**
 * The directory of a project: the nearest one with a `package.json`, at or above a directory; or that directory itself if there
 * is none. A program finds its files this way also when it is started from a directory within.
 *
 * @param from the directory to begin with
 */
export function findRoot(from: string): string {
  const start = resolve(from)
  for (let directory = start; ; directory = dirname(directory)) {
    const found = isThere(join(directory, 'package.json'))
    if (found === true) return directory
    // Where nothing may be read, nothing further up may be either.
    if (found === null || directory === dirname(directory)) return start
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
export function currentDirectory(): string {
  try {
    return process.cwd()
  } catch {
    throw new SettingsError({ title: 'Settings', stage: null, problems: [problem('directory-gone', {})] })
  }
}
