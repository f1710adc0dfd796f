import { fs } from './builtin.ts'

/** Why something was not read. */
export type SkipReason = 'too-large' | 'unreadable' | 'no-file'

/** Something that was not read, and why. Whoever has a list of these must not say that nothing was found without naming them. */
export interface Skipped {
  /** The path, as it is shown. */
  readonly file: string
  readonly why: SkipReason
}

/** What a file holds, or why it was not read. */
export type FileRead = { readonly bytes: Buffer; readonly skipped: null } | { readonly skipped: SkipReason }

/**
 * Reads a file that may not be there, may be closed to this user, or may be larger than anybody wants to read.
 *
 * @param most the size up to which it is read, in bytes
 */
export function readLimited(file: string, most: number): FileRead {
  try {
    const stats = fs.statSync(file)
    // A pipe would be waited for without end.
    if (!stats.isFile()) return { skipped: 'no-file' }
    if (stats.size > most) return { skipped: 'too-large' }
    return { bytes: fs.readFileSync(file), skipped: null }
  } catch {
    return { skipped: 'unreadable' }
  }
}

/** What is said of a file or a directory that this user can't read. */
export const UNREADABLE = "can't be read"

/** The reason in words. */
export function describeSkip(reason: SkipReason, most: number): string {
  if (reason === 'no-file') return 'not a regular file'
  return reason === 'unreadable' ? UNREADABLE : `more than ${most / 2 ** 20} MiB`
}
