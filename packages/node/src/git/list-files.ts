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

/** What git tracks or would take along below a directory; `null` outside of a repository. */
export function listFiles(directory: string): ListedFiles | null {
  const words = ['ls-files', '-z', '-t', '--cached', '--others', '--exclude-standard', '--deduplicate', '.']
  const answer = git(directory, words)
  if (answer?.status !== 0) return null
  const files = answer.stdout
    .split('\0')
    .filter((line) => line !== '')
    .map((line) => ({ file: line.slice(2), tracked: line[0] !== '?' }))
  // A directory that is closed is only warned of.
  const closed = [...answer.stderr.matchAll(/^warning: could not open directory '(.+?)\/?':/gm)]
  return { files, skipped: closed.map(([, path]) => path!) }
}
