import type { Definition } from '@mappa/core/definition/definition'
import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { path } from '@mappa/node/fs/builtin'
import { toShownPath } from '@mappa/node/fs/places'
import type { SourceLiteral, SourceRead } from '@mappa/source/source'
import { SurveyCache } from './cache.ts'
import { type FileOptions, listSourceFiles } from './files.ts'
import { type Finding, listFindings } from './findings.ts'
import { readInThreads } from './parallel.ts'
import { listFallbacks, listReads, type Read } from './reads.ts'
import { mustRead, NOT_UNDERSTOOD, scanFile } from './scan-file.ts'
import { UsageCheck } from './usage.ts'

/** What a survey found. */
export interface Survey {
  readonly findings: readonly Finding[]
  readonly reads: readonly Read[]
  /** What the code takes for variables that have no value, by their names. It may be a secret. */
  readonly fallbacks: ReadonlyMap<string, string>
  /** Settings of the definition that nothing reads; empty where there is no definition. */
  readonly unread: readonly string[]
  readonly files: number
  /** Files that were skipped, and why, as text. */
  readonly skipped: readonly { readonly file: string; readonly why: string }[]
}

/** Options of {@link surveyProject}. */
export interface SurveyOptions extends FileOptions {
  /** Absolute paths to look at; the whole project if left out. */
  readonly paths?: readonly string[]
  /** Absolute paths of directories that are left out; none if left out. */
  readonly without?: readonly string[]
  /** Is told how far it got, now and then. */
  readonly onProgress?: (done: number, all: number) => void
}

/**
 * Goes through the sources of a project for values that should be settings, and for reads of variables.
 *
 * @param definition the settings there are; `null` in a project that has none yet
 */
export function surveyProject(root: string, definition: Definition | null, options: SurveyOptions = {}): Survey {
  const { paths = [], without = [] } = options
  const { files: all, left } = listSourceFiles(root, paths.length > 0 ? paths : [root], options)
  const files = without.length === 0 ? all : all.filter((file) => !without.some((each) => isNested(file, each)))
  const literals: SourceLiteral[] = []
  const reads: SourceRead[] = []
  const fallbacks: SourceLiteral[] = []
  const skipped = left.map(({ directory, why }) => ({ file: toShownPath(root, directory), why }))
  const usage = new UsageCheck(definition)
  const cache = new SurveyCache(root)
  const named = files.map((whole) => ({ whole, file: toShownPath(root, whole) }))
  options.onProgress?.(0, files.length)
  const ready = readInThreads(named.filter(({ whole, file }) => mustRead(whole, file, cache)))
  let count = 0
  for (const [index, { whole, file }] of named.entries()) {
    if (index % 50 === 0) options.onProgress?.(index, files.length)
    const found = scanFile(whole, file, cache, usage, ready)
    if (found === null) continue
    const { skipped: why } = found
    if (why === null || why === NOT_UNDERSTOOD) count++
    if (why !== null) skipped.push({ file, why })
    append(literals, found.literals)
    append(reads, found.reads)
    append(fallbacks, found.fallbacks ?? [])
  }
  cache.save()
  const readings = listReads(reads, definition)
  return {
    findings: listFindings(literals, definition?.settings ?? [], definition?.stages ?? DEFAULT_STAGES),
    reads: readings,
    fallbacks: listFallbacks(fallbacks),
    unread: usage.listUnread(new Set(readings.map((each) => each.name))),
    files: count,
    skipped,
  }
}

/** Adds items one by one: a large file may hold more than a call takes. */
function append<T>(list: T[], items: readonly T[]): void {
  for (const each of items) list.push(each)
}

const isNested = (file: string, directory: string) => file.startsWith(`${directory}${path.sep}`)
