import { type Problem, problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { fs } from './builtin.ts'

/** What stands at a path, links followed; `undefined` where nothing does, or where nobody can tell: links in a circle, no rights. */
export function readStats(file: string) {
  try {
    return fs.statSync(file)
  } catch {
    return undefined
  }
}

/** True for a file, or a link to one. Reading a pipe or a device may wait for ever, and no signal ends that. */
export function isRegularFile(file: string): boolean {
  return readStats(file)?.isFile() === true
}

/**
 * Refuses whatever exists and is no file.
 *
 * @param shown the path to name in the problem
 * @throws {SettingsError} for a directory, a pipe, a socket or a device
 */
export function mustBeRegular(file: string, shown: string = file): void {
  const why = findIrregularity(file, shown)
  if (why !== null) throw settingsError(why)
}

/** What is wrong with a path that exists and is no file, or that the system does not hand out; `null` for a file and for none. */
export function findIrregularity(file: string, shown: string): Problem | null {
  try {
    const stats = fs.statSync(file, { throwIfNoEntry: false })
    if (stats === undefined || stats.isFile()) return null
    return problem(stats.isDirectory() ? 'file-is-directory' : 'file-not-regular', { file: shown }, { file: shown })
  } catch (error) {
    return explainRefusal(error as NodeJS.ErrnoException, shown)
  }
}

/** What the system says of a file that it does not hand out. */
export function explainRefusal({ code, message }: NodeJS.ErrnoException, file: string): Problem {
  if (code === 'EACCES' || code === 'EPERM') return problem('file-no-permission', { file }, { file })
  return problem('file-unreadable', { file, reason: message.replace(/,.*$/s, '') }, { file })
}

/**
 * The text of a file; `null` where there is none.
 *
 * @param shown the path to name in a problem
 * @throws {SettingsError} as {@link mustBeRegular}
 */
export function readRegularText(file: string, shown: string = file): string | null {
  mustBeRegular(file, shown)
  return fs.existsSync(file) ? fs.readFileSync(file, 'utf8') : null
}
