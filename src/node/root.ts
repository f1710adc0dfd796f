import { fs, path } from './builtin.ts'

const { existsSync } = fs
const { dirname, join, resolve } = path

/**
 * The folder of a project: the nearest one with a `package.json`, at or above a folder; or that folder itself
 * where there is none. A program finds its files this way also when it is started from a folder within.
 *
 * @param from the folder to begin with
 */
export function findRoot(from: string): string {
  const start = resolve(from)
  for (let folder = start; ; folder = dirname(folder)) {
    if (existsSync(join(folder, 'package.json'))) return folder
    if (folder === dirname(folder)) return start
  }
}
