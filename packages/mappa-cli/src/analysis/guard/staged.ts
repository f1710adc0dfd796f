import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { git } from '@mappa/node/git/git'
import { readObjects } from '@mappa/node/git/objects'
import type { SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { reportSecret } from './secret-found.ts'
import { takeSkipped } from './skipped.ts'

/** A file as the next commit has it, and as the last one has it. */
export interface StagedFile {
  /** The path from the top of the repository, with `/`. */
  readonly file: string
  readonly object: string
  /** `null` for a new file. */
  readonly before: string | null
  readonly isSubmodule: boolean
}

/**
 * Looks at what the next commit would take along: layer files of one machine, and values of secrets, in files and in their names.
 *
 * @param root a directory of the repository
 * @param localFiles names of files that must never be committed
 * @param coverage is told what could not be read
 */
export async function checkStaged(
  root: string,
  localFiles: readonly string[],
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): Promise<Problem[]> {
  const problems: Problem[] = []
  const files = listStagedFiles(root)
  if (files === null) {
    coverage.skip('the list of staged files', 'git-failed')
    return problems
  }
  for (const { file } of files) {
    const name = file.split('/').at(-1)!
    if (localFiles.includes(name)) problems.push(guardProblem('env-file-staged', { file }, { file }))
    const { path, hits } = showPath(file, needles)
    for (const hit of hits)
      problems.push(reportSecret(hit, { code: 'secret-in-path', file: path, where: 'is staged for the next commit' }))
  }
  const own = files.filter(({ isSubmodule }) => !isSubmodule)
  for (const { file } of files.filter(({ isSubmodule }) => isSubmodule))
    coverage.skip(showPath(file, needles).path, 'submodule')
  let at = 0
  await readObjects(
    root,
    own.map(({ object }) => object),
    (read) => {
      const { file: inner } = own[at++]!
      const { path: file } = showPath(inner, needles)
      if (read.skipped !== null) {
        coverage.skip(file, read.skipped)
        return
      }
      coverage.read++
      const { hits, skipped } = searchContent(inner, read.bytes, needles)
      takeSkipped(coverage, file, skipped)
      for (const hit of hits) problems.push(reportSecret(hit, { code: 'secret-staged', file }))
    },
  )
  return problems
}

/** The staged files of the whole repository; `null` where git did not say. */
export function listStagedFiles(root: string): readonly StagedFile[] | null {
  const answer = git(root, [
    'diff',
    '--cached',
    '--no-ext-diff',
    '--no-textconv',
    '--raw',
    '-z',
    '--no-renames',
    '--no-abbrev',
    '--ignore-submodules=none',
    '--diff-filter=ACMT',
  ])
  if (answer?.status !== 0) return null
  const pieces = answer.stdout.split('\0')
  const files: StagedFile[] = []
  // `:100644 100644 <old> <new> M`, then the path.
  for (let at = 0; at + 1 < pieces.length; at += 2) {
    const [, mode, before = '', object] = pieces[at]!.split(' ')
    if (object === undefined) continue
    const isNew = /^0+$/.test(before)
    files.push({ file: pieces[at + 1]!, object, before: isNew ? null : before, isSubmodule: mode === '160000' })
  }
  return files
}
