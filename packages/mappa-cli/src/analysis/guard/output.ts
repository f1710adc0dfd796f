import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { walkFiles } from '@mappa/node/fs/files-below'
import { toShownPath } from '@mappa/node/fs/places'
import { describeSkip, readLimited } from '@mappa/node/fs/read-file'
import type { SearchedSecret } from '@mappa/search/needles'
import { findHitsInContent, MAX_FILE_BYTES } from './contents.ts'
import { reportSecret } from './secret-found.ts'

/** What was searched. */
export interface Searched {
  readonly problems: readonly Problem[]
  readonly files: number
  /** What could not be searched, and why, as text. */
  readonly skipped: readonly string[]
}

/**
 * Looks for secrets in files and directories, such as built output; also within compressed files.
 *
 * @param root the directory of the project, to which paths are shown
 * @param paths absolute paths
 * @param own files in which the secrets are at home, by their absolute paths
 * @returns every secret that was found and every path that does not exist, how many files were scanned, and what was not
 */
export function searchOutput(
  root: string,
  paths: readonly string[],
  needles: readonly SearchedSecret[],
  own: ReadonlySet<string>,
): Searched {
  let files = 0
  const problems: Problem[] = []
  const skipped: string[] = []
  for (const start of paths) {
    for (const file of walkFiles(start)) {
      if (own.has(file)) continue
      const shown = toShownPath(root, file)
      const read = readLimited(file, MAX_FILE_BYTES)
      if (read.skipped === null) {
        files++
        problems.push(...findSecrets(file, shown, read.bytes, needles, skipped))
      } else if (file === start && read.skipped === 'unreadable')
        problems.push(guardProblem('path-missing', { file: shown }, { file: shown }))
      else skipped.push(`${shown} (${describeSkip(read.skipped, MAX_FILE_BYTES)})`)
    }
  }
  return { problems, files, skipped }
}

function findSecrets(
  file: string,
  shown: string,
  bytes: Buffer,
  needles: readonly SearchedSecret[],
  skipped: string[],
): Problem[] {
  const { hits, readable } = findHitsInContent(file, bytes, needles)
  if (!readable) skipped.push(`what is packed in ${shown}`)
  return hits.map((hit) => reportSecret(hit, { code: 'secret-in-output', file: shown }))
}
