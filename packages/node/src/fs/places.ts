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
  return !leadsOutside(paths.relative(directory, file), paths)
}

/** True for a relative path that leads out of the directory where it begins, and for one that is not relative. */
export function leadsOutside(file: string, paths: Paths = path): boolean {
  return paths.isAbsolute(file) || file === '..' || file.startsWith('../') || file.startsWith(`..${paths.sep}`)
}

/**
 * The path from a directory to a file, with `/` between names on every system. A backslash that is part of a name stays.
 *
 * @param directory an absolute path
 * @param file an absolute path
 */
export function toRelativePath(directory: string, file: string, paths: Paths = path): string {
  return paths.relative(directory, file).replaceAll(paths.sep, '/')
}

/** A path as people are shown it: from a directory where it is below that, else as it is. */
export function toShownPath(directory: string, file: string, paths: Paths = path): string {
  // Of most files that are shown by the thousand, the beginning says it all.
  const prefix = directory.endsWith(paths.sep) ? directory : directory + paths.sep
  const inner = file.startsWith(prefix)
    ? file.slice(prefix.length).replaceAll(paths.sep, '/')
    : toRelativePath(directory, file, paths)
  return inner === '' || leadsOutside(inner, paths) ? file : inner
}

/** Where a file really is. Of one that is not there yet, the nearest directory above that is says where it will be. */
export function resolveRealPath(file: string): string {
  try {
    return fs.realpathSync(file)
  } catch {
    const parent = path.dirname(file)
    return parent === file || file === '' ? file : path.join(resolveRealPath(parent), path.basename(file))
  }
}

/**
 * The nearest directory at or above one that has a repository of git: found without git, which is itself a program to be found.
 *
 * @param isRepository true for a directory with a `.git`
 * @returns `null` where there is none
 */
export function findEnclosingRepository(
  directory: string,
  paths: Paths = path,
  isRepository: (directory: string) => boolean = hasGit,
): string | null {
  if (isRepository(directory)) return directory
  const parent = paths.dirname(directory)
  return parent === directory ? null : findEnclosingRepository(parent, paths, isRepository)
}

const hasGit = (directory: string) => fs.existsSync(path.join(directory, '.git'))
