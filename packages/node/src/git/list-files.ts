import { git } from './git.ts'

/** A file that git tracks or would take along. */
export interface ListedFile {
  /** The path below the directory that was asked about, with `/`. */
  readonly file: string
  readonly tracked: boolean
}

/** The files of a working tree, as far as git could look into its directories. */
export interface ListedFiles {
  readonly files: readonly ListedFile[]
  /** Directories that git could not open, written as paths of files are. */
  readonly skipped: readonly string[]
}

/** What git tracks or would take along below a directory; `null` where git lists nothing: outside of a repository, or where that is damaged. */
export function listFiles(directory: string): ListedFiles | null {
  const words = ['ls-files', '-z', '-t', '--cached', '--others', '--exclude-standard', '--deduplicate', '.']
  const answer = git(directory, words)
  if (answer?.status !== 0) return null
  const lines = answer.stdout.split('\0').filter((line) => line !== '')
  // With states, a file that is being merged is listed once for each side.
  const tracked = new Map(lines.map((line) => [line.slice(2), line[0] !== '?']))
  // A directory that is closed is only warned of; its name may have line breaks in it.
  const closed = [...answer.stderr.matchAll(/^warning: could not open directory '(.+?)\/?': /gms)]
  return {
    files: [...tracked].map(([file, isTracked]) => ({ file, tracked: isTracked })),
    skipped: closed.map(([, path]) => path!),
  }
}
