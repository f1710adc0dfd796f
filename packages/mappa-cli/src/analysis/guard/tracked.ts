import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { describeSkip, readLimited, UNREADABLE } from '@mappa/node/fs/read-file'
import { isRegularFile } from '@mappa/node/fs/regular-file'
import { findRepository } from '@mappa/node/git/git'
import { listFiles } from '@mappa/node/git/list-files'
import type { SearchedSecret } from '@mappa/search/needles'
import { findHitsInContent, MAX_FILE_BYTES } from './contents.ts'
import { findOpenNames } from './open-names.ts'
import { reportSecret } from './secret-found.ts'

/** What was searched of the files that git has. */
export interface TrackedSearch {
  readonly problems: readonly Problem[]
  readonly files: number
  readonly skipped: readonly string[]
}

/**
 * Searches every file that git tracks or would take along, in the whole repository, as it is on the disk: for current values of
 * secrets, and for copies of env files with secrets in them.
 *
 * @param root the directory of the project
 * @param secrets the names of secrets
 * @param own the layer files of the project, by absolute paths; what they hold is checked elsewhere, but for credentials that
 *   no setting declares
 */
export function searchTracked(
  root: string,
  secrets: ReadonlySet<string>,
  needles: readonly SearchedSecret[],
  own: ReadonlySet<string>,
): TrackedSearch {
  const top = findRepository(root) ?? root
  const problems: Problem[] = []
  const skipped: string[] = []
  let files = 0
  const listed = listFiles(top)
  if (listed === null) return { problems, files, skipped: ['what git tracks: git could not list it'] }
  skipped.push(...listed.skipped.map((each) => `${toRelativePath(root, path.join(top, each))} (${UNREADABLE})`))
  for (const { file: inner } of listed.files) {
    const whole = path.join(top, inner)
    if (!isRegularFile(whole)) continue
    const file = toRelativePath(root, whole)
    const read = readLimited(whole, MAX_FILE_BYTES)
    if (read.skipped !== null) {
      skipped.push(`${file} (${describeSkip(read.skipped, MAX_FILE_BYTES)})`)
      continue
    }
    files++
    const isOwn = own.has(whole)
    const { hits, readable } = isOwn ? NOTHING : findHitsInContent(file, read.bytes, needles)
    if (!readable) skipped.push(`what is packed in ${file}`)
    const secretsHere = hits.map((hit) => reportSecret(hit, { code: 'secret-in-tracked', file }))
    problems.push(...(hits.length > 0 ? secretsHere : findCredentials(file, read.bytes, isOwn, secrets)))
  }
  return { problems, files, skipped }
}

/** Of the project's own files, secrets that are declared are reported where they are checked. */
const NOTHING: ReturnType<typeof findHitsInContent> = { hits: [], readable: true }

/** The problem with an env file that has values which open something, and which no other check reports. */
function findCredentials(file: string, bytes: Buffer, isOwn: boolean, secrets: ReadonlySet<string>): Problem[] {
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
