import type { SkipReason } from '@mappa/core/problems/skip-reasons'
import { fs } from './builtin.ts'

/** Something that was not read, and why. Whoever has a list of these must not say that nothing was found without naming them. */
export interface Skipped {
  /** The path, as it is shown. */
  readonly file: string
  readonly why: SkipReason
}

/** What a file holds, or why it was not read. */
export type FileRead =
  | { readonly bytes: Buffer; readonly skipped: null }
  | { readonly skipped: Extract<SkipReason, 'too-large' | 'unreadable' | 'no-file'> }

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
