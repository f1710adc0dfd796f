import { git } from '@mappa/node/git/git'

/** Everything that the history of a repository is made of. */
export interface HistoryObjects {
  /** The names of all objects that are here. */
  readonly objects: readonly string[]
  /** How many of them are commits. */
  readonly commits: number
  /** The name of a file or directory that an object once had. */
  readonly paths: ReadonlyMap<string, string>
  /** Objects that a commit or a directory names, and that are not here. */
  readonly missing: readonly string[]
  /** False where git could not go through all of it. */
  readonly isComplete: boolean
}

/** Lists what all references, `HEAD`, stashes, notes and reflogs lead to. What is not here is listed, and nothing is fetched. */
export function listHistory(root: string): HistoryObjects {
  const answer = git(root, ['rev-list', '--all', '--reflog', '--objects', '--missing=print'])
  const objects: string[] = []
  const missing: string[] = []
  const paths = new Map<string, string>()
  let commits = 0
  for (const line of answer?.stdout.split('\n') ?? []) {
    const space = line.indexOf(' ')
    const name = space < 0 ? line : line.slice(0, space)
    if (line.startsWith('?')) missing.push(name.slice(1))
    else if (/^[0-9a-f]{40,64}$/.test(name)) {
      objects.push(name)
      // All else has a name, be it an empty one.
      if (space < 0) commits++
      if (space > 0 && line.length > space + 1) paths.set(name, line.slice(space + 1))
    }
    // Anything else is the rest of a name with a line end in it.
  }
  return { objects, commits, paths, missing, isComplete: answer?.status === 0 }
}
