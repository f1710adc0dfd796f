import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { walkFiles } from '@mappa/node/fs/files-below'
import { resolveRealPath, toShownPath } from '@mappa/node/fs/places'
import { readLimited } from '@mappa/node/fs/read-file'
import type { SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { reportSecret } from './secret-found.ts'
import { takeSkipped } from './skipped.ts'

/** Where to look. */
export interface OutputQuestion {
  /** The directory of the project, to which paths are shown. */
  readonly root: string
  /** Absolute paths of files and directories, such as built output. */
  readonly paths: readonly string[]
  readonly needles: readonly SearchedSecret[]
  /** Files in which the secrets are at home, by their absolute paths. */
  readonly own: ReadonlySet<string>
  /** Is told what was read, and what was not. */
  readonly coverage: Coverage
}

/**
 * Looks for secrets in files and directories, also within compressed files.
 *
 * @returns every secret that was found and every path that does not exist, and how many files were scanned
 */
export function searchOutput(question: OutputQuestion): {
  readonly problems: readonly Problem[]
  readonly files: number
} {
  const { paths, own, coverage } = question
  let files = 0
  const problems: Problem[] = []
  for (const start of paths) {
    const real = resolveRealPath(start)
    for (const file of walkFiles(start)) {
      if (own.has(file)) continue
      // What git has was told already; of what somebody names, more is told.
      const isKnown = file !== start && coverage.files.has(real + file.slice(start.length))
      const found = isKnown ? [] : searchFile(question, file, file === start)
      if (found !== null) files++
      problems.push(...(found ?? []))
    }
  }
  return { problems, files }
}

/** What is wrong with one file; `null` for one that could not be read. */
function searchFile(
  { root, needles, coverage }: OutputQuestion,
  file: string,
  isNamed: boolean,
): readonly Problem[] | null {
  const { path: shown, hits: named } = showPath(toShownPath(root, file), needles)
  const problems = named.map((hit) => reportSecret(hit, { code: 'secret-in-path', file: shown, where: 'was named' }))
  const read = readLimited(file, MAX_SEARCHED_BYTES)
  if (read.skipped === null) {
    const { hits, skipped } = searchContent(file, read.bytes, needles)
    takeSkipped(coverage, shown, skipped, { isNamed })
    return [...problems, ...hits.map((hit) => reportSecret(hit, { code: 'secret-in-output', file: shown }))]
  }
  if (isNamed && read.skipped === 'unreadable')
    return [...problems, guardProblem('path-missing', { file: shown }, { file: shown })]
  coverage.skip(shown, read.skipped)
  return problems.length > 0 ? problems : null
}
