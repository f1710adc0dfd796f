import { fs, path } from './builtin.ts'

/** How paths are written on a system: that of this one, or another to be tried. */
type Paths = Pick<typeof path, 'relative' | 'isAbsolute' | 'dirname' | 'sep'>

/**
 * True for a directory itself and for everything below it, by the names alone: links are not followed. A directory that is called `..x` is
 * within the one that holds it.
 *
 * @param file an absolute path
 * @param directory an absolute path
 */
export function isInside(file: string, directory: string, paths: Paths = path): boolean {
  const inner = paths.relative(directory, file)
  return !paths.isAbsolute(inner) && inner !== '..' && !inner.startsWith(`..${paths.sep}`)
}

/** Where a file really is. Of one that is not there yet, the nearest directory above that is says where it will be. */
export function realPlace(file: string): string {
  try {
    return fs.realpathSync(file)
  } catch {
    const parent = path.dirname(file)
    return parent === file || file === '' ? file : path.join(realPlace(parent), path.basename(file))
  }
}

/**
 * The nearest directory at or above one that has a repository of git: found without git, which is itself a program to be found.
 *
 * @param isRepository true for a directory with a `.git`
 * @returns `null` where there is none
 */
export function repositoryAround(
  directory: string,
  paths: Paths = path,
  isRepository: (directory: string) => boolean = hasGit,
): string | null {
  if (isRepository(directory)) return directory
  const parent = paths.dirname(directory)
  return parent === directory ? null : repositoryAround(parent, paths, isRepository)
}

const hasGit = (directory: string) => fs.existsSync(path.join(directory, '.git'))
