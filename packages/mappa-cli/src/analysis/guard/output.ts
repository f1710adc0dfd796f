import { guardProblem } from '../../../../mappa/src/core/problems/makers/guard.ts'
import type { Problem } from '../../../../mappa/src/core/problems/problem.ts'
import { fs, path } from '../../../../mappa/src/node/fs/builtin.ts'
import { filesBelow } from '../../../../mappa/src/node/fs/files-below.ts'
import type { Needle } from '../../../../mappa/src/node/leaks/needles.ts'
import { hitsInContent, MAX_FILE_BYTES } from './contents.ts'

/** What was searched. */
export interface Searched {
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
 * @param problems gets every secret that was found, and every path that does not exist
 */
export function searchOutput(
  root: string,
  paths: readonly string[],
  needles: readonly Needle[],
  own: ReadonlySet<string>,
  problems: Problem[],
): Searched {
  let files = 0
  const skipped: string[] = []
  for (const start of paths) {
    for (const file of filesBelow(start)) {
      if (own.has(file)) continue
      const inner = path.relative(root, file)
      const shown = inner === '' || inner.startsWith('..') ? file : inner
      const bytes = read(file)
      if (bytes === null) {
        if (file === start) problems.push(guardProblem('path-missing', { file: shown }, { file: shown }))
        else skipped.push(`${shown} (can't be read)`)
        continue
      }
      if (bytes === 'too large') {
        skipped.push(`${shown} (more than 256 MiB)`)
        continue
      }
      files++
      const { hits, readable } = hitsInContent(file, bytes, needles)
      if (!readable) skipped.push(`what is packed in ${shown}`)
      for (const { name, setting, encoding } of hits)
        problems.push(guardProblem('secret-in-output', { name, file: shown, encoding }, { file: shown, name, setting }))
    }
  }
  return { files, skipped }
}

function read(file: string): Buffer | 'too large' | null {
  try {
    const { size } = fs.statSync(file)
    return size > MAX_FILE_BYTES ? 'too large' : fs.readFileSync(file)
  } catch {
    return null
  }
}
