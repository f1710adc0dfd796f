import type { Definition } from '../../core/definition/definition.ts'
import type { Problem } from '../../core/problems/problem.ts'
import { path } from '../builtin.ts'
import { repositoryOf } from '../git/git.ts'
import { type Inspection, inspectStage } from '../load.ts'
import { checkIgnored, checkModes, envFilesOf, layerFileNames } from './env-files.ts'
import { checkHistory } from './history.ts'
import { needlesOf } from './needles.ts'
import { searchOutput } from './output.ts'
import { checkDockerContext, checkPublished } from './packages.ts'
import { checkStaged } from './staged.ts'

/** What to look at. */
export interface GuardOptions {
  /** True to look through every commit as well. */
  readonly history?: boolean
  /** True to look at nothing but what is staged for the next commit. */
  readonly staged?: boolean
  /** Files and folders to search for secrets, such as built output; whole paths. */
  readonly paths?: readonly string[]
}

/** What was found, and how far the look went. */
export interface GuardReport {
  readonly problems: readonly Problem[]
  /** What was looked at, in words. */
  readonly looked: readonly string[]
  /** What was not, and why, in words. */
  readonly notLooked: readonly string[]
}

/**
 * Looks for secrets where they must not be. Places and names are told, values never.
 *
 * @param root the folder of the project
 */
export async function guardProject(
  root: string,
  definition: Definition,
  options: GuardOptions = {},
): Promise<GuardReport> {
  const inspections = definition.stages.map((stage) => inspectStage(definition, { stage, from: 'guard' }, { root }))
  const { needles, problems } = needlesOf(inspections)
  problems.push(...unread(inspections))
  const looked: string[] = []
  const notLooked: string[] = []
  const localFiles = layerFileNames(definition).filter((file) => file.endsWith('.local'))
  const inRepository = repositoryOf(root) !== null
  if (!inRepository) notLooked.push('what git tracks, ignores and remembers: there is no git repository here')
  if (options.staged) {
    if (inRepository) {
      problems.push(...(await checkStaged(root, localFiles, needles)))
      looked.push('what is staged')
    }
    return { problems, looked, notLooked }
  }
  const files = envFilesOf(root, definition)
  looked.push(files.length === 0 ? 'no env file, since there is none' : files.map(({ file }) => file).join(', '))
  if (inRepository) problems.push(...checkIgnored(root, files))
  problems.push(...checkModes(root, files))
  for (const check of [
    checkPublished(root),
    checkDockerContext(
      root,
      files.map(({ file }) => file),
    ),
  ]) {
    problems.push(...check.problems)
    if (check.notLooked !== null) notLooked.push(check.notLooked)
  }
  if (options.history && inRepository) {
    problems.push(...(await checkHistory(root, localFiles, needles)))
    looked.push('every commit')
  } else if (inRepository) notLooked.push('the history: --history does')
  const paths = options.paths ?? []
  if (paths.length > 0) {
    const { files: count, passedOver } = await searchOutput(
      root,
      paths,
      needles,
      new Set(files.map(({ file }) => path.join(root, file))),
      problems,
    )
    looked.push(
      `${count} file${count === 1 ? '' : 's'} in ${paths.map((each) => path.relative(root, each) || '.').join(', ')}`,
    )
    notLooked.push(...passedOver)
  }
  return { problems, looked, notLooked }
}

/** What keeps env files from being read in full, and their values from being searched for. */
function unread(inspections: readonly Inspection[]): Problem[] {
  const found = new Map<string, Problem>()
  for (const { layers } of inspections) {
    for (const each of layers.flatMap(({ problems }) => problems)) {
      const { severity, file, line, column, code } = each
      if (severity === 'error') found.set([file, line, column, code].join(' '), each)
    }
  }
  return [...found.values()]
}
