import { path } from '@mappa/node/fs/builtin'
import { findRepository, git } from '@mappa/node/git/git'
import { findDefinition, requireDefinition } from '@mappa/node/project/definition/find'
import { findRoot } from '@mappa/node/project/root'
import { Coverage, countTypes, type TypeCount } from '@mappa/search/read/coverage'
import { loadDefinition } from '../../project/definition/load.ts'
import { readManifest } from '../../project/manifest.ts'
import { type GuardReport, guardProject } from './guard.ts'
import { describeFailed, reportFailed } from './skipped.ts'
import { checkUndeclared } from './undeclared.ts'

/** Looks at what is staged, for the secrets of every package of a repository. */
export async function guardRepository(directory: string): Promise<GuardReport> {
  const top = findRepository(directory) ?? directory
  const reports: GuardReport[] = []
  const packages = findPackages(top)
  // What looks like a credential is looked for in any repository, once.
  const coverage = new Coverage()
  const undeclared = packages.length === 0 ? await checkUndeclared(top, [], coverage) : []
  for (const root of packages) {
    const definition = await loadDefinition(requireDefinition(root), root)
    reports.push(await guardProject(root, definition, { staged: true }))
  }
  const problems = new Map(
    [...undeclared, ...reportFailed(coverage), ...reports.flatMap((each) => each.problems)].map((each) => [
      [each.code, each.file, each.line, each.name, each.message].join(' '),
      each,
    ]),
  )
  const removeDuplicates = (lists: readonly (readonly string[])[]) => [...new Set(lists.flat())]
  return {
    problems: [...problems.values()],
    scanned: [
      ...removeDuplicates(reports.map(({ scanned }) => scanned)),
      reports.length === 0
        ? 'staged files, for what looks like a credential'
        : `${reports.length} definition${reports.length === 1 ? '' : 's'}`,
    ],
    notScanned: removeDuplicates(reports.map(({ notScanned }) => notScanned)),
    failed: removeDuplicates([describeFailed(coverage), ...reports.map(({ failed }) => failed)]),
    opaque: mergeCounts([countTypes(coverage.opaque), ...reports.map(({ opaque }) => opaque)]),
    values: reports.reduce((sum, { values }) => sum + values, 0),
  }
}

/** Each package looks at the same files, so of each type the largest count is the one of all. */
function mergeCounts(lists: readonly (readonly TypeCount[])[]): readonly TypeCount[] {
  const counts = new Map<string, number>()
  for (const { type, count } of lists.flat()) counts.set(type, Math.max(count, counts.get(type) ?? 0))
  return [...counts].map(([type, count]) => ({ type, count }))
}

/** The directories of a repository that have a definition. */
function findPackages(top: string): string[] {
  const patterns = ['*settings.definition.*', '*package.json']
  const answer = git(top, [
    'ls-files',
    '-z',
    '--cached',
    '--others',
    '--exclude-standard',
    '--deduplicate',
    '--',
    ...patterns,
  ])
  const found = new Set<string>()
  for (const file of answer?.stdout.split('\0') ?? []) {
    if (file === '') continue
    const directory = path.dirname(path.join(top, file))
    if (file.endsWith('package.json')) {
      if ((readManifest(directory) as { mappa?: unknown }).mappa !== undefined) found.add(directory)
    } else found.add(findDefinitionRoot(directory))
  }
  return [...found].filter(hasDefinition).sort()
}

/** A definition lies in the directory of its package, or in `src` of that. */
function findDefinitionRoot(directory: string): string {
  const nearest = findRoot(directory)
  if (nearest === directory || nearest === path.dirname(directory)) return nearest
  return path.basename(directory) === 'src' ? path.dirname(directory) : directory
}

function hasDefinition(root: string): boolean {
  return findDefinition(root).kind !== 'none'
}
