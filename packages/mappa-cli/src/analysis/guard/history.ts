import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { readBlobs } from '@mappa/node/git/blobs'
import { git } from '@mappa/node/git/git'
import { bytewise, findHits, type SearchedSecret } from '@mappa/search/needles'
import { findHitsInContent } from './contents.ts'
import { reportSecret } from './secret-found.ts'

/**
 * Looks through every commit of every branch and tag: for layer files of one machine that were ever committed, and for
 * the values of secrets in any version of any file and in any message. Each version of a file is read once, whichever
 * commits hold it. No value is ever a word of a command.
 *
 * @param root a directory of the repository
 * @param localFiles names of files that must never be committed
 */
export async function checkHistory(
  root: string,
  localFiles: readonly string[],
  needles: readonly SearchedSecret[],
): Promise<Problem[]> {
  const problems: Problem[] = []
  for (const file of localFiles) {
    const commit = findLastLine(
      git(root, ['log', '--all', '--format=%h', '--diff-filter=A', '--', `:(literal)${file}`])?.stdout,
    )
    if (commit !== null) problems.push(guardProblem('env-file-committed', { file, commit }, { file }))
  }
  const objects = git(root, ['rev-list', '--all', '--objects'])?.stdout.split('\n') ?? []
  const paths = new Map<string, string>()
  for (const line of objects) {
    const space = line.indexOf(' ')
    if (space > 0 && line.length > space + 1) paths.set(line.slice(0, space), line.slice(space + 1))
  }
  await readBlobs(root, [...paths.keys()], (object, bytes) => {
    const { hits } = findHitsInContent(paths.get(object)!, bytes, needles)
    if (hits.length === 0) return
    const commit =
      findLastLine(git(root, ['log', '--all', '--format=%h', `--find-object=${object}`])?.stdout) ?? object.slice(0, 10)
    for (const file of listNames(root, object) ?? [paths.get(object)!])
      for (const hit of hits) problems.push(reportSecret(hit, { code: 'secret-committed', file, commit }))
  })
  for (const message of git(root, ['log', '--all', '--format=%h%n%B%x00'])?.stdout.split('\0') ?? []) {
    const commit = message.trimStart().split('\n', 1)[0]!
    for (const hit of findHits(bytewise(message), needles))
      problems.push(reportSecret(hit, { code: 'secret-in-message', commit }))
  }
  return problems
}

/** Every name that a version of a file ever had, also one with line ends in it; `null` where only a merge brought it in. */
function listNames(root: string, object: string): readonly string[] | null {
  const words = ['log', '--all', '--no-renames', '--no-abbrev', '--format=', '--raw', '-z', `--find-object=${object}`]
  const parts = git(root, words)?.stdout.split('\0') ?? []
  const names = new Set<string>()
  // Each entry, with the objects before and after it, is followed by its name.
  for (const [at, part] of parts.entries()) {
    const [, , , after] = /^\s*:/.test(part) ? part.trim().split(' ') : []
    if (after === object) names.add(parts[at + 1]!)
  }
  return names.size === 0 ? null : [...names]
}

/** The last line of git's log is the oldest commit: where something came in. */
function findLastLine(text: string | undefined): string | null {
  return text?.trim().split('\n').at(-1) || null
}

/** How far the history of a repository goes here, as text; `missing` says what of it is not here. */
export function measureExtent(root: string): { readonly seen: string; readonly missing: readonly string[] } {
  const shallow = git(root, ['rev-parse', '--is-shallow-repository'])?.stdout.trim() === 'true'
  const count = Number(git(root, ['rev-list', '--all', '--count'])?.stdout.trim() ?? 0)
  const commits = `${count} commit${count === 1 ? '' : 's'}`
  return {
    seen: shallow ? `the ${commits} of this shallow clone` : `every commit (${count})`,
    missing: shallow ? ['older commits, which a shallow clone lacks: git fetch --unshallow gets them'] : [],
  }
}
