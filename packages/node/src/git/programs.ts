import type { PlatformPath } from 'node:path'
import { fs, path } from '../fs/builtin.ts'
import { findEnclosingRepository, isInside, resolveRealPath } from '../fs/places.ts'

/** The machine on which a program is looked for; the present one if left out. */
export interface Machine {
  readonly platform?: NodeJS.Platform
  readonly environment?: Readonly<Record<string, string | undefined>>
  /** True for an absolute path at which there is a file that can be started. */
  readonly isProgram?: (file: string) => boolean
  /** True for a directory with the repository of git in it, or the file that leads to it. */
  readonly isRepository?: (directory: string) => boolean
}

/**
 * Finds a program of the machine, so that it is started by its absolute path. Left to the system, some systems would take a file of
 * that name in the current directory first; and a repository can be anybody's. So nothing is taken from the repository around a
 * directory, from a relative entry of `PATH`, or from the programs of packages (`node_modules/.bin`), which `npx` puts in front.
 *
 * @param name the name of the program, without its extension
 * @param directory the directory that is worked in, an absolute path
 * @returns `null` where the machine has no such program
 */
export function findProgram(name: string, directory: string, machine: Machine = {}): string | null {
  const { platform = process.platform, environment = process.env, isProgram = isExecutable } = machine
  const paths = platform === 'win32' ? path.win32 : path.posix
  const repository = findEnclosingRepository(directory, paths, machine.isRepository)
  for (const entry of variable('PATH', environment, platform).split(paths.delimiter)) {
    const place = entry.replace(/^"(.*)"$/, '$1')
    if (!paths.isAbsolute(place) || /[\\/]node_modules[\\/]\.bin[\\/]*$/.test(place)) continue
    if (isEnclosed(place, directory, repository, paths)) continue
    for (const extension of listExtensions(environment, platform)) {
      const file = paths.join(place, name + extension)
      if (isProgram(file)) return file
    }
  }
  return null
}

/** Variables have no case on Windows. */
function variable(name: string, environment: Machine['environment'] & object, platform: NodeJS.Platform): string {
  const found = Object.keys(environment).find((each) =>
    platform === 'win32' ? each.toUpperCase() === name : each === name,
  )
  return (found === undefined ? undefined : environment[found]) ?? ''
}

function listExtensions(environment: Machine['environment'] & object, platform: NodeJS.Platform): readonly string[] {
  if (platform !== 'win32') return ['']
  return (variable('PATHEXT', environment, platform) || '.COM;.EXE;.BAT;.CMD').split(';').filter((each) => each !== '')
}

/** True for the directory itself, and for everything in the repository, also where a link leads there. */
function isEnclosed(place: string, directory: string, repository: string | null, paths: PlatformPath): boolean {
  const places = [place, resolveRealPath(place)].map((each) => paths.resolve(each))
  if (places.some((each) => [directory, resolveRealPath(directory)].includes(each))) return true
  if (repository === null) return false
  return places.some((each) => [repository, resolveRealPath(repository)].some((top) => isInside(each, top, paths)))
}

function isExecutable(file: string): boolean {
  try {
    fs.accessSync(file, fs.constants.X_OK)
    return fs.statSync(file).isFile()
  } catch {
    return false
  }
}
