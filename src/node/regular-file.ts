import { problem } from '../core/problems/problem.ts'
import { SettingsError } from '../core/problems/settings-error.ts'
import { fs } from './builtin.ts'

/** True for a file, or a link to one. Reading a pipe or a device may wait for ever, and no signal ends that. */
export function isRegularFile(file: string): boolean {
  return fs.statSync(file, { throwIfNoEntry: false })?.isFile() === true
}

/**
 * Refuses whatever exists and is no file.
 *
 * @param shown the path to name in the problem
 * @throws {SettingsError} for a directory, a pipe, a socket or a device
 */
export function mustBeRegular(file: string, shown: string = file): void {
  const stats = fs.statSync(file, { throwIfNoEntry: false })
  if (stats === undefined || stats.isFile()) return
  const why = problem(stats.isDirectory() ? 'file-is-folder' : 'file-not-regular', { file: shown }, { file: shown })
  throw new SettingsError({ title: 'Settings', stage: null, problems: [why] })
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
