import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { readBlobs } from '@mappa/node/git/blobs'
import { git } from '@mappa/node/git/git'
import type { SearchedSecret } from '@mappa/search/needles'
import { findHitsInContent } from './contents.ts'
import { reportSecret } from './secret-found.ts'

/**
 * Looks at what the next commit would take along: layer files of one machine, and values of secrets.
 *
 * @param root a directory of the repository
 * @param localFiles names of files that must never be committed
 */
export async function checkStaged(
  root: string,
  localFiles: readonly string[],
  needles: readonly SearchedSecret[],
): Promise<Problem[]> {
  const problems: Problem[] = []
  const files = listStagedFiles(root)
  for (const file of [...files.values()].flat()) {
    const name = file.split('/').at(-1)!
    if (localFiles.includes(name)) problems.push(guardProblem('env-file-staged', { file }, { file }))
  }
  await readBlobs(root, [...files.keys()], (object, bytes) => {
    for (const file of files.get(object)!) {
      for (const hit of findHitsInContent(file, bytes, needles).hits)
        problems.push(reportSecret(hit, { code: 'secret-staged', file }))
    }
  })
  return problems
}

/** The staged files by the names of their objects; files of the same content share one. */
function listStagedFiles(root: string): Map<string, string[]> {
  const raw =
    git(root, [
      'diff',
      '--cached',
      '--no-ext-diff',
      '--no-textconv',
      '--raw',
      '-z',
      '--no-renames',
      '--no-abbrev',
      '--diff-filter=ACMT',
    ])?.stdout ?? ''
  const pieces = raw.split('\0')
  const files = new Map<string, string[]>()
  // `:100644 100644 <old> <new> M`, then the path.
  for (let at = 0; at + 1 < pieces.length; at += 2) {
    const object = pieces[at]!.split(' ')[3]
    if (object !== undefined) files.set(object, [...(files.get(object) ?? []), pieces[at + 1]!])
  }
  return files
}
