import { createHash } from 'node:crypto'
import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { readLimited } from '@mappa/node/fs/read-file'
import { isRegularFile } from '@mappa/node/fs/regular-file'
import { findRepository } from '@mappa/node/git/git'
import { type IndexEntry, listHead, listIndex } from '@mappa/node/git/index-entries'
import { listFiles } from '@mappa/node/git/list-files'
import { readObjects } from '@mappa/node/git/objects'
import type { SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { findOpenNames } from './open-names.ts'
import { reportSecret } from './secret-found.ts'
import { takeSkipped } from './skipped.ts'

/** What is looked for in the files that git has. */
export interface TrackedQuestion {
  /** The directory of the project. */
  readonly root: string
  /** The names of secrets. */
  readonly secrets: ReadonlySet<string>
  readonly needles: readonly SearchedSecret[]
  /**
   * The layer files of the project, by absolute paths; what they hold is checked elsewhere, but for credentials that no setting
   * declares.
   */
  readonly own: ReadonlySet<string>
  /** Is told what was read, and what was not. */
  readonly coverage: Coverage
}

/**
 * Searches every file that git tracks or would take along, in the whole repository: as it is on the disk, and where that is another one or
 * none, as it is staged and as the last commit has it. Looks for current values of secrets, and for copies of env files with secrets in them.
 */
export async function searchTracked(question: TrackedQuestion): Promise<readonly Problem[]> {
  const { root, coverage } = question
  const top = findRepository(root) ?? root
  const [listed, index, head] = [listFiles(top), listIndex(top), listHead(top)]
  if (listed === null || index === null || head === null) {
    coverage.skip('the list of what git tracks', 'git-failed')
    return []
  }
  for (const each of listed.skipped) coverage.skip(toRelativePath(root, path.join(top, each)), 'unreadable')
  const search = new TrackedSearch(question, top)
  const byFile = new Map(index.map((each) => [each.file, each]))
  for (const { file } of listed.files) search.searchFile(file, byFile.get(file))
  const staged = new Set(index.map(({ file, object }) => `${object} ${file}`))
  const committed = head.filter(({ file, object }) => !staged.has(`${object} ${file}`))
  await search.searchObjects([...index.filter((each) => search.isOpen(each)), ...committed])
  return search.problems
}

/** A search that is under way. */
class TrackedSearch {
  readonly problems: Problem[] = []
  readonly #question: TrackedQuestion
  readonly #top: string
  /** The objects that files on the disk are, and so were searched. */
  readonly #onDisk = new Set<string>()
  /** The files on the disk that were searched, whatever git has of them. */
  readonly #searched = new Set<string>()

  constructor(question: TrackedQuestion, top: string) {
    this.#question = question
    this.#top = top
  }

  /** True for what is not on the disk as it is staged. */
  isOpen({ object, file, kind }: IndexEntry): boolean {
    if (kind !== 'submodule') return !this.#onDisk.has(`${object} ${file}`)
    this.#question.coverage.skip(this.#takeName(file), 'submodule')
    return false
  }

  /** The path of a file as it may be shown. A secret in it is told. */
  #takeName(inner: string): string {
    const { root, needles, own } = this.#question
    const whole = path.join(this.#top, inner)
    const { path: file, hits } = showPath(toRelativePath(root, whole), needles)
    const where = 'git tracks or does not ignore'
    if (!own.has(whole)) this.#add(hits.map((hit) => reportSecret(hit, { code: 'secret-in-path', file, where })))
    return file
  }

  /** The same file may be searched as it is on the disk and as it is staged, and what the disk has is told first. */
  #add(found: readonly Problem[]): void {
    if (found.length === 0) return
    const toKey = ({ code, file, name }: Problem) =>
      `${code === 'secret-in-version' ? 'secret-in-tracked' : code} ${file} ${name}`
    const told = new Set(this.problems.map(toKey))
    this.problems.push(...found.filter((each) => !told.has(toKey(each))))
  }

  searchFile(inner: string, entry: IndexEntry | undefined): void {
    const { coverage } = this.#question
    const whole = path.join(this.#top, inner)
    // Links, and what is not there, are searched as git has them.
    if (!isRegularFile(whole)) return
    const read = readLimited(whole, MAX_SEARCHED_BYTES)
    if (read.skipped !== null) {
      coverage.skip(this.#takeName(inner), read.skipped)
      return
    }
    coverage.read++
    coverage.files.add(whole)
    if (entry !== undefined && hashBlob(read.bytes, entry.object.length) === entry.object)
      this.#onDisk.add(`${entry.object} ${inner}`)
    this.#search(inner, read.bytes, 'secret-in-tracked')
    this.#searched.add(inner)
  }

  async searchObjects(entries: readonly IndexEntry[]): Promise<void> {
    const { coverage } = this.#question
    const files = entries.filter(({ kind }) => kind !== 'submodule')
    let at = 0
    await readObjects(
      this.#top,
      files.map(({ object }) => object),
      (read) => {
        const { file } = files[at++]!
        const code = this.#searched.has(file) ? 'secret-in-version' : 'secret-in-tracked'
        if (read.skipped === null) this.#search(file, read.bytes, code)
        else coverage.skip(this.#takeName(file), read.skipped)
      },
    )
  }

  #search(inner: string, bytes: Buffer, code: 'secret-in-tracked' | 'secret-in-version'): void {
    const { own, needles, secrets, coverage } = this.#question
    const file = this.#takeName(inner)
    const isOwn = own.has(path.join(this.#top, inner))
    const { hits, skipped } = searchContent(inner, bytes, isOwn ? [] : needles)
    takeSkipped(coverage, file, skipped)
    const found =
      hits.length > 0
        ? hits.map((hit) => reportSecret(hit, { code, file }))
        : findCredentials(file, bytes, { isOwn, secrets })
    this.#add(found)
  }
}

/** The name that git gives a file of some content, by the length of such names. */
function hashBlob(bytes: Buffer, length: number): string {
  return createHash(length === 64 ? 'sha256' : 'sha1')
    .update(`blob ${bytes.length}\0`)
    .update(bytes)
    .digest('hex')
}

/** The problem with an env file that has values which open something, and which no other check reports. */
function findCredentials(
  file: string,
  bytes: Buffer,
  { isOwn, secrets }: { readonly isOwn: boolean; readonly secrets: ReadonlySet<string> },
): Problem[] {
  const base = path.basename(file)
  const kind = classifyEnvFile(base)
  if (kind === null || (isOwn && kind === 'local')) return []
  const isCopy = !isOwn && kind !== 'example'
  const names = findOpenNames(bytes, isCopy ? secrets : new Set(), { byName: isCopy }).filter(
    (name) => !isOwn || !secrets.has(name),
  )
  if (names.length === 0) return []
  return [guardProblem('credential-in-env-file', { file, names, near: kind === 'local' ? base : null }, { file })]
}
