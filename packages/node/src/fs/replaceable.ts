import { writingProblem } from '@mappa/core/problems/catalogue/writing'
import { problem } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from './builtin.ts'
import { findEnclosingRepository, isInside, resolveRealPath } from './places.ts'
import { mustBeRegular } from './regular-file.ts'

/**
 * Refuses what a new file must not take the place of: what is no file, what is write-protected on purpose, and what has a second
 * name, which would keep the old text.
 *
 * @throws {SettingsError} with a sentence for each
 */
export function mustBeReplaceable(target: string, file: string): void {
  mustBeRegular(target, file)
  const stats = fs.statSync(target, { throwIfNoEntry: false })
  if (stats === undefined) return
  if (stats.nlink > 1) throw settingsError(writingProblem('file-hard-linked', { file, count: stats.nlink }, { file }))
  if ((stats.mode & 0o200) === 0) throw settingsError(writingProblem('file-read-only', { file }, { file }))
}

/**
 * The file itself, where the path is a link to it.
 *
 * @throws {SettingsError} where a link leads out of the repository, or out of its directory where there is none: what is there belongs
 * to something else, and the link may be a stranger's
 */
export function getTarget(file: string): string {
  try {
    const target = fs.realpathSync(file)
    const isLink = fs.lstatSync(file).isSymbolicLink() && fs.statSync(target).isFile()
    const directory = resolveRealPath(path.dirname(file))
    if (isLink && !isInside(target, findEnclosingRepository(directory) ?? directory))
      throw settingsError(writingProblem('file-link-outside', { file, target }, { file }))
    return target
  } catch (error) {
    if (error instanceof SettingsError) throw error
    // Not there, or made by somebody just now.
    if (fs.lstatSync(file, { throwIfNoEntry: false })?.isSymbolicLink() !== true) return file
    throw settingsError(problem('file-link-broken', { file }, { file }))
  }
}

/** What the operating system reported, as a problem of a file. */
export function toProblem(error: unknown, file: string): unknown {
  if (error instanceof SettingsError) return error
  const { code, message } = error as NodeJS.ErrnoException
  if (code === undefined) return error
  if (code === 'ELOCKED') return settingsError(writingProblem('file-busy', { file }, { file }))
  if (code === 'EISDIR') return settingsError(problem('file-is-directory', { file }, { file }))
  const reason = message.replace(/,.*$/s, '')
  return settingsError(writingProblem('file-unwritable', { file, reason }, { file }))
}
