import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { isInside, resolveRealPath, toRelativePath } from '@mappa/node/fs/places'
import { askGit, findRepository, git } from '@mappa/node/git/git'
import { type ObjectRead, readObjects } from '@mappa/node/git/objects'
import { bytewise, findHits, findHitsInFile, type SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { listHistory } from './history-objects.ts'
import { type FoundPlace, reportSecret } from './secret-found.ts'
import { takeSkipped } from './skipped.ts'

/**
 * Looks through everything that a repository has: every commit of every branch, tag, stash and note, and those that only the reflog has.
 * It reads each version of each file and each name of one, each message of a commit and of a tag, once. No value is ever a word of a command.
 *
 * @param root a directory of the repository
 * @param localFiles names of files that must never be committed
 * @param coverage is told what could not be read
 * @returns what was found, and how far the history goes here, as text
 */
export async function checkHistory(
  root: string,
  localFiles: readonly string[],
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): Promise<{ readonly problems: readonly Problem[]; readonly extent: string }> {
  const first = findFirstCommits(root, localFiles, coverage)
  const listed = listHistory(root)
  const search = new HistorySearch(root, listed.paths, needles, coverage)
  if (!listed.isComplete) coverage.skip('the list of what the history has', 'git-failed')
  for (const name of listed.missing) coverage.skip(search.describe(name), 'missing')
  if (needles.length > 0) await readObjects(root, listed.objects, (read) => search.take(read))
  const problems = [...(await first)].map(([file, commit]) =>
    guardProblem('env-file-committed', { file, commit }, { file }),
  )
  return { problems: [...problems, ...search.problems], extent: describeExtent(root, listed.commits, coverage) }
}

/** The commits in which files came in that should never have, by their names; asked for all of them at once, since git goes through all commits. */
async function findFirstCommits(
  root: string,
  files: readonly string[],
  coverage: Coverage,
): Promise<ReadonlyMap<string, string>> {
  const top = findRepository(root) ?? root
  const own = resolveRealPath(root)
  // What is outside of the repository is in none of its commits, and git would answer nothing at all.
  const within = files.filter((file) => isInside(path.resolve(own, file), top))
  if (within.length === 0) return new Map()
  const byPath = new Map(within.map((file) => [toRelativePath(top, path.resolve(own, file)), file]))
  const words = ['log', ...ALL, '--format=%x00%h', '-z', '--name-only', '--no-renames', '--diff-filter=A', '--']
  const answer = await askGit(root, [...words, ...within.map((file) => `:(literal)${file}`)])
  if (answer?.status !== 0) coverage.skip('the commits that brought env files in', 'git-failed')
  const found = new Map<string, string>()
  let commit = ''
  for (const part of answer?.stdout.split('\0') ?? []) {
    const file = byPath.get(part.replace(/^\n/, ''))
    if (/^[0-9a-f]{4,64}$/.test(part)) commit = part
    // The last one is the oldest.
    else if (file !== undefined) found.set(file, commit)
  }
  return found
}

/** Commits that no branch has any more are still there for whoever has the repository. */
const ALL = ['--all', '--reflog']

type Read = Extract<ObjectRead, { readonly skipped: null }>

/** A search that is under way. */
class HistorySearch {
  readonly problems: Problem[] = []
  readonly #root: string
  readonly #paths: ReadonlyMap<string, string>
  readonly #needles: readonly SearchedSecret[]
  readonly #coverage: Coverage
  readonly #holders = new Map<string, string>()

  constructor(
    root: string,
    paths: ReadonlyMap<string, string>,
    needles: readonly SearchedSecret[],
    coverage: Coverage,
  ) {
    this.#root = root
    this.#paths = paths
    this.#needles = needles
    this.#coverage = coverage
  }

  /** What an object is called: the path of a file, where it has one. */
  describe(name: string): string {
    const known = this.#paths.get(name)
    const object = `object ${name.slice(0, 10)}`
    return known === undefined ? object : `${showPath(known, this.#needles).path} (${object})`
  }

  take(read: ObjectRead): void {
    if (read.skipped !== null) {
      this.#coverage.skip(this.describe(read.name), read.skipped)
      return
    }
    this.#coverage.read++
    if (read.type === 'blob') this.#searchBlob(read)
    else this.#searchOther(read)
  }

  #searchBlob({ name: object, bytes }: Read): void {
    const known = this.#paths.get(object) ?? ''
    const { hits, skipped } = searchContent(known, bytes, this.#needles)
    takeSkipped(this.#coverage, this.describe(object), skipped)
    if (hits.length === 0) return
    const commit = findCommit(this.#root, object)
    const names = listNames(this.#root, object) ?? [known === '' ? `object ${object.slice(0, 10)}` : known]
    for (const file of names.map((each) => showPath(each, this.#needles).path))
      for (const hit of hits)
        this.problems.push(
          reportSecret(hit, { code: 'secret-committed', file, commit, holders: this.#findHolders(commit) }),
        )
  }

  /** What has a commit, asked once for each. */
  #findHolders(commit: string): string {
    const known = this.#holders.get(commit) ?? showPath(describeHolders(this.#root, commit), this.#needles).path
    this.#holders.set(commit, known)
    return known
  }

  /** A message, or the names of the files of a directory. */
  #searchOther({ name, type, bytes }: Read): void {
    const hits = type === 'tree' ? findHits(bytewise(bytes), this.#needles) : findHitsInFile(bytes, this.#needles)
    if (hits.length === 0) return
    const place = this.#describePlace({ name, type, bytes })
    for (const hit of hits) this.problems.push(reportSecret(hit, place))
  }

  #describePlace({ name, type, bytes }: Pick<Read, 'name' | 'type' | 'bytes'>): FoundPlace {
    if (type === 'commit') return { code: 'secret-in-message', commit: name.slice(0, 10) }
    if (type === 'tree') return { code: 'secret-in-file-name', commit: findCommit(this.#root, name) }
    const tag = /^tag (.*)$/m.exec(bytes.toString('utf8'))?.[1] ?? name.slice(0, 10)
    return { code: 'secret-in-tag', tag: showPath(tag, this.#needles).path }
  }
}

/** So many branches and tags are named. */
const MOST_NAMED = 3

/** Who else has a commit: branches, tags, and what was fetched of others. */
function describeHolders(root: string, commit: string): string {
  const answer = git(root, ['for-each-ref', '--contains', commit, '--format=%(refname:short)'])
  const names = (answer?.stdout ?? '').split('\n').filter((name) => name !== '')
  if (names.length === 0) return 'no branch and no tag has'
  const more = names.length > MOST_NAMED ? [`${names.length - MOST_NAMED} more`] : []
  return `${[...names.slice(0, MOST_NAMED), ...more].join(', ')} ${names.length === 1 ? 'has' : 'have'}`
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
function describeExtent(root: string, count: number, coverage: Coverage): string {
  const isShallow = git(root, ['rev-parse', '--is-shallow-repository'])?.stdout.trim() === 'true'
  const commits = `${count} commit${count === 1 ? '' : 's'}`
  if (isShallow)
    coverage.skip('older commits, which a shallow clone lacks (git fetch --unshallow gets them)', 'missing')
  return isShallow ? `the ${commits} of this shallow clone` : `every commit (${count})`
}
