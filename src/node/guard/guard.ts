import type { Definition } from '../../core/definition/definition.ts'
import { isSearchable } from '../../core/guard/encodings.ts'
import type { Problem } from '../../core/problems/problem.ts'
import { fs, path } from '../builtin.ts'
import { repositoryOf } from '../git/git.ts'
import { type Inspection, inspectStage } from '../load.ts'
import { surveyProject } from '../survey/survey.ts'
import { checkIgnored, checkModes, envFilesOf, layerFileNames } from './env-files.ts'
import { checkHistory, extentOf } from './history.ts'
import { type Needle, needlesFor, needlesOf } from './needles.ts'
import { searchOutput } from './output.ts'
import { checkDockerContext, checkPublished } from './packages.ts'
import { checkStaged } from './staged.ts'
import { searchTracked } from './tracked.ts'

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
  /** How many different values of secrets were looked for. */
  readonly values: number
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
  const { needles, values, problems } = needlesOf(inspections)
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
    return { problems, looked, notLooked, values }
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
  if (inRepository) {
    const own = new Set(files.map(({ file }) => path.join(fs.realpathSync(root), file)))
    const tracked = searchTracked(fs.realpathSync(root), definition, needles, own)
    problems.push(...tracked.problems)
    looked.push(`${tracked.files} file${tracked.files === 1 ? '' : 's'} that git tracks or would take along`)
    notLooked.push(...tracked.passedOver)
    if (fs.existsSync(path.join(repositoryOf(root)!, '.gitmodules')))
      notLooked.push('submodules: call it in each of them')
  }
  if (options.history && inRepository) {
    const inCode = needlesInCode(root, definition, needles)
    problems.push(...(await checkHistory(root, localFiles, [...needles, ...inCode])))
    const count = new Set(inCode.map(({ name }) => name)).size
    const { seen, missing } = extentOf(root)
    looked.push(count === 0 ? seen : `${seen}, also for ${count} that the survey finds in the code`)
    notLooked.push(...missing)
  } else if (inRepository) notLooked.push('the history: --history does')
  const paths = options.paths ?? []
  if (paths.length > 0) {
    const found: Problem[] = []
    const { files: count, passedOver } = searchOutput(
      root,
      paths,
      needles,
      new Set(files.map(({ file }) => path.join(root, file))),
      found,
    )
    // What git has was told already.
    const told = new Set(problems.map(({ file, name }) => `${file} ${name}`))
    problems.push(...found.filter(({ file, name }) => !told.has(`${file} ${name}`)))
    looked.push(
      `${count} file${count === 1 ? '' : 's'} in ${paths.map((each) => path.relative(root, each) || '.').join(', ')}`,
    )
    notLooked.push(...passedOver)
  }
  return { problems, looked, notLooked, values }
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
