import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { git } from '@mappa/node/git/git'
import { type ObjectRead, readObjects } from '@mappa/node/git/objects'
import { bytewise, findHits, findHitsInFile, type Hit, type SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { listHistory } from './history-objects.ts'
import { reportSecret } from './secret-found.ts'
import { showPath } from './shown-path.ts'
import { takeSkipped } from './skipped.ts'

/**
 * Looks through everything that a repository has: every commit of every branch, tag, stash and note, and those that only the reflog has.
 * It reads each version of each file and each name of one, each message of a commit and of a tag, once. No value is ever a word of a command.
 *
 * @param root a directory of the repository
 * @param localFiles names of files that must never be committed
 * @param coverage is told what could not be read
 */
export async function checkHistory(
  root: string,
  localFiles: readonly string[],
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): Promise<Problem[]> {
  const problems: Problem[] = []
  for (const file of localFiles) {
    const commit = findLastLine(
      git(root, ['log', ...ALL, '--format=%h', '--diff-filter=A', '--', `:(literal)${file}`])?.stdout,
    )
    if (commit !== null) problems.push(guardProblem('env-file-committed', { file, commit }, { file }))
  }
  const { objects, paths, missing, isComplete } = listHistory(root)
  if (!isComplete) coverage.skip('the list of what the history has', 'git-failed')
  for (const name of missing) coverage.skip(describeObject(name, paths, needles), 'missing')
  if (needles.length === 0) return problems
  await readObjects(root, objects, (read) => {
    if (read.skipped !== null) coverage.skip(describeObject(read.name, paths, needles), read.skipped)
    else {
      coverage.read++
      problems.push(...searchObject(root, read, paths, needles, coverage))
    }
  })
  return problems
}

/** Commits that no branch has any more are still there for whoever has the repository. */
const ALL = ['--all', '--reflog']

type Read = Extract<ObjectRead, { readonly skipped: null }>

function searchObject(
  root: string,
  { name, type, bytes }: Read,
  paths: ReadonlyMap<string, string>,
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): readonly Problem[] {
  if (type === 'blob') return searchBlob(root, name, bytes, paths, needles, coverage)
  const hits = type === 'tree' ? findHits(bytewise(bytes), needles) : findHitsInFile(bytes, needles)
  return hits.map((hit) => reportOther(root, { name, type, bytes }, hit))
}

/** A secret in a message, or in the name of a file. */
function reportOther(root: string, { name, type, bytes }: Pick<Read, 'name' | 'type' | 'bytes'>, hit: Hit): Problem {
  if (type === 'commit') return reportSecret(hit, { code: 'secret-in-message', commit: name.slice(0, 10) })
  if (type === 'tag') {
    const tag = /^tag (.*)$/m.exec(bytes.toString('utf8'))?.[1] ?? name.slice(0, 10)
    return reportSecret(hit, { code: 'secret-in-tag', tag })
  }
  const commit = findCommit(root, name)
  return reportSecret(hit, { code: 'secret-in-file-name', commit })
}

function searchBlob(
  root: string,
  object: string,
  bytes: Buffer,
  paths: ReadonlyMap<string, string>,
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): readonly Problem[] {
  const known = paths.get(object) ?? ''
  const { hits, skipped } = searchContent(known, bytes, needles)
  takeSkipped(coverage, describeObject(object, paths, needles), skipped)
  if (hits.length === 0) return []
  const commit = findCommit(root, object)
  const names = listNames(root, object) ?? [known === '' ? `object ${object.slice(0, 10)}` : known]
  const files = names.map((file) => showPath(file, needles).path)
  return files.flatMap((file) => hits.map((hit) => reportSecret(hit, { code: 'secret-committed', file, commit })))
}

function describeObject(name: string, paths: ReadonlyMap<string, string>, needles: readonly SearchedSecret[]): string {
  const known = paths.get(name)
  const file = known === undefined ? undefined : showPath(known, needles).path
  const object = `object ${name.slice(0, 10)}`
  return file === undefined || file === '' ? object : `${file} (${object})`
}

function findCommit(root: string, object: string): string {
  const words = ['log', ...ALL, '--format=%h', '-t', `--find-object=${object}`]
  return findLastLine(git(root, words)?.stdout) ?? object.slice(0, 10)
}

/** Every name that a version of a file ever had, also one with line ends in it; `null` where only a merge brought it in. */
function listNames(root: string, object: string): readonly string[] | null {
  const words = ['log', ...ALL, '--no-renames', '--no-abbrev', '--format=', '--raw', '-z', `--find-object=${object}`]
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

/**
 * How far the history of a repository goes here, as text.
 *
 * @param coverage is told what of it is not here
 */
export function measureExtent(root: string, coverage: Coverage): string {
  const isShallow = git(root, ['rev-parse', '--is-shallow-repository'])?.stdout.trim() === 'true'
  const count = Number(git(root, ['rev-list', ...ALL, '--count'])?.stdout.trim() ?? 0)
  const commits = `${count} commit${count === 1 ? '' : 's'}`
  if (isShallow)
    coverage.skip('older commits, which a shallow clone lacks (git fetch --unshallow gets them)', 'missing')
  return isShallow ? `the ${commits} of this shallow clone` : `every commit (${count})`
}
