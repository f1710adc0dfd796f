import type { Definition } from '../../../../mappa/src/core/definition/definition.ts'
import { isLocalFile } from '../../../../mappa/src/core/layers/order.ts'
import type { Problem } from '../../../../mappa/src/core/problems/problem.ts'
import { isSearchable } from '../../../../mappa/src/core/values/encodings.ts'
import { fs, path } from '../../../../mappa/src/node/fs/builtin.ts'
import { type Needle, needlesFor, needlesOf } from '../../../../mappa/src/node/leaks/needles.ts'
import { type Inspection, inspectStage } from '../../../../mappa/src/node/load/load.ts'
import { repositoryOf } from '../../project/git/git.ts'
import { surveyProject } from '../survey/survey.ts'
import { checkIgnored, checkModes, envFilesOf, layerFileNames } from './env-files.ts'
import { checkHistory, extentOf } from './history.ts'
import { checkDockerContext, checkPublished } from './npm-package.ts'
import { searchOutput } from './output.ts'
import { checkStaged } from './staged.ts'
import { searchTracked } from './tracked.ts'

/** What to look at. */
export interface GuardOptions {
  /** True to look through every commit as well. */
  readonly history?: boolean
  /** True to check staged files only. */
  readonly staged?: boolean
  /** Files and directories to search for secrets, such as built output; absolute paths. */
  readonly paths?: readonly string[]
}

/** What was found, and how far the look went. */
export interface GuardReport {
  readonly problems: readonly Problem[]
  /** What was scanned, as text. */
  readonly scanned: readonly string[]
  /** What was not, and why, as text. */
  readonly notScanned: readonly string[]
  /** How many different values of secrets were scanned for. */
  readonly values: number
}

/**
 * Looks for secrets where they must not be. Places and names are told, values never.
 *
 * @param root the directory of the project
 */
export async function guardProject(
  root: string,
  definition: Definition,
  options: GuardOptions = {},
): Promise<GuardReport> {
  const inspections = definition.stages.map((stage) => inspectStage(definition, { stage, from: 'guard' }, { root }))
  const { needles, values, problems } = needlesOf(inspections)
  problems.push(...unread(inspections))
  const scanned: string[] = []
  const notScanned: string[] = []
  const localFiles = layerFileNames(definition).filter((file) => isLocalFile(file))
  const inRepository = repositoryOf(root) !== null
  if (!inRepository) notScanned.push('what git tracks, ignores and has in its history: this is not a git repository')
  if (options.staged) {
    if (inRepository) {
      problems.push(...(await checkStaged(root, localFiles, needles)))
      scanned.push('staged files')
    }
    return { problems, scanned, notScanned, values }
  }
  const files = envFilesOf(root, definition)
  scanned.push(files.length === 0 ? 'no env files: there are none' : files.map(({ file }) => file).join(', '))
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
    if (check.notScanned !== null) notScanned.push(check.notScanned)
  }
  if (inRepository) {
    const own = new Set(files.map(({ file }) => path.join(fs.realpathSync(root), file)))
    const tracked = searchTracked(fs.realpathSync(root), definition, needles, own)
    problems.push(...tracked.problems)
    scanned.push(`${tracked.files} file${tracked.files === 1 ? '' : 's'} that git tracks or does not ignore`)
    notScanned.push(...tracked.skipped)
    if (fs.existsSync(path.join(repositoryOf(root)!, '.gitmodules')))
      notScanned.push('submodules: run mappa guard in each of them')
  }
  if (options.history && inRepository) {
    const inCode = needlesInCode(root, definition, needles)
    problems.push(...(await checkHistory(root, localFiles, [...needles, ...inCode])))
    const count = new Set(inCode.map(({ name }) => name)).size
    const { seen, missing } = extentOf(root)
    scanned.push(count === 0 ? seen : `${seen}, including ${count} that the survey finds in the code`)
    notScanned.push(...missing)
  } else if (inRepository) notScanned.push('the history: add --history')
  const paths = options.paths ?? []
  if (paths.length > 0) {
    const found: Problem[] = []
    const { files: count, skipped } = searchOutput(
      root,
      paths,
      needles,
      new Set(files.map(({ file }) => path.join(root, file))),
      found,
    )
    // What git has was told already.
    const told = new Set(problems.map(({ file, name }) => `${file} ${name}`))
    problems.push(...found.filter(({ file, name }) => !told.has(`${file} ${name}`)))
    scanned.push(
      `${count} file${count === 1 ? '' : 's'} in ${paths.map((each) => path.relative(root, each) || '.').join(', ')}`,
    )
    notScanned.push(...skipped)
  }
  return { problems, scanned, notScanned, values }
}

/** Secrets that still stand in the code, which no setting has yet. */
function needlesInCode(root: string, definition: Definition, known: readonly Needle[]): Needle[] {
  const texts = new Set(known.flatMap(({ patterns }) => patterns.map(({ text }) => text)))
  return surveyProject(root, definition)
    .findings.filter(({ secret, value }) => secret && isSearchable(value) && !texts.has(value))
    .flatMap(({ name, path: setting, value }) => needlesFor(name, setting, value))
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
