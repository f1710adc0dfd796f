import { readdirSync, realpathSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { toRelativePath } from '@mappa/node/fs/places'
import { type FileRead, readLimited } from '@mappa/node/fs/read-file'

/** A file that is ready to be served. */
export interface ServedFile {
  /** Its path from the directory, with `/` between directories. */
  readonly file: string
  /** Where it is. */
  readonly whole: string
  /**
   * Reads it.
   *
   * @param most the size up to which it is read, in bytes
   */
  readonly read: (most: number) => FileRead
}

/** The files below a directory that is served, also those that links lead to; none where there is no directory. */
export function listServedFiles(directory: string): ServedFile[] {
  return [...walkReachable(directory, new Set())].map((whole) => ({
    file: toRelativePath(directory, whole),
    whole,
    // A directory is among them only where it can't be listed.
    read: (most) => (isDirectory(whole) ? { skipped: 'unreadable' } : readLimited(whole, most)),
  }))
}

const isDirectory = (whole: string) => statSync(whole, { throwIfNoEntry: false })?.isDirectory() === true

/** Every file that a server finds below a directory. A link may lead round in a circle, so each directory is looked through once. */
function* walkReachable(directory: string, seen: Set<string>): Generator<string> {
  for (const { inner, isFile } of listDirectory(directory, seen)) {
    if (isFile) yield inner
    else yield* walkReachable(inner, seen)
  }
}

interface Entry {
  readonly inner: string
  readonly isFile: boolean
}

/** What is in a directory that was not looked through yet. One that can't be listed stands for all that is in it. */
function listDirectory(directory: string, seen: Set<string>): readonly Entry[] {
  try {
    const real = realpathSync(directory)
    if (seen.has(real)) return []
    seen.add(real)
    return readdirSync(directory).flatMap((entry): Entry[] => {
      const inner = join(directory, entry)
      const stats = statSync(inner, { throwIfNoEntry: false })
      return stats?.isFile() || stats?.isDirectory() ? [{ inner, isFile: stats.isFile() }] : []
    })
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ENOENT' ? [] : [{ inner: directory, isFile: true }]
  }
}
