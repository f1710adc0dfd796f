import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import type { Layer } from '@mappa/core/layers/layer'
import { mergeLayers } from '@mappa/core/layers/merge'
import { type Problem, problem } from '@mappa/core/problems/problem'
import type { Template } from '@mappa/core/template/template'
import { fs, path } from '../../fs/builtin.ts'
import { isRegularFile } from '../../fs/regular-file.ts'
import { getCurrentDirectory } from '../../project/root.ts'
import { describeTurnOff, findKnownLoader, type KnownLoader } from './known-loaders.ts'
import type { ProcessEnvironment, Variables } from './process-environment.ts'
import { findVariableOrigin } from './variable-origin.ts'

/** What env files of a project say about a variable. */
interface Saying {
  readonly file: string
  readonly value: string | Template
}

/** What is looked at to tell which variables were loaded from env files. */
export interface Surroundings {
  readonly stage: string
  /** The directory of the project. */
  readonly root: string
  /** Other directories whose env files the project reads, relative to it. */
  readonly layersFrom: readonly string[]
  /** The layers below the environment, lowest first. */
  readonly layers: readonly Layer[]
  /** The variables of the definition. */
  readonly names: readonly string[]
  /** Variables that are looked after elsewhere. */
  readonly except: readonly string[]
}

/** An environment without what was loaded into it, and what is to be told of that. */
export interface Unloaded {
  readonly environment: ProcessEnvironment
  readonly problems: readonly Problem[]
}

/**
 * Values that were taken as loaded before, by names: the environment keeps them when their file changes, as it does the environment
 * of this process, which is why they are kept beside it.
 */
const loadedBefore = new Map<string, string>()

/**
 * Takes out of the environment what a runtime, a framework or another loader put there from env files: it would lie above all layers,
 * as if somebody had set it, whichever stage it is of.
 *
 * A variable counts as loaded if an env file of the project has its value, for whatever stage, and nothing shows that this process was
 * started with it. Where the layers have the same value, there is nothing to decide. Where they have another one, what is certain, or was
 * loaded by what is known to do so, is told with a notice; anything else is an error, for that variable alone.
 */
export function withoutLoaded(environment: ProcessEnvironment, around: Surroundings): Unloaded {
  if (!environment.isOfProcess) return { environment, problems: [] }
  const loader = findKnownLoader(environment.values)
  const below = mergeLayers(around.layers)
  const values: Record<string, string | undefined> = { ...environment.values }
  const unused: string[] = []
  const problems: Problem[] = []
  for (const { name, value, file } of listLoadable(environment.values, around, loader)) {
    const origin = findVariableOrigin(name, value)
    if (origin === 'start') continue
    loadedBefore.set(name, value)
    const winner = below.winner(name)?.value
    const isSame = winner !== undefined && fits(winner, value)
    if (isSame || origin === 'code' || loader !== null) delete values[name]
    if (isSame || !around.names.includes(name)) continue
    if (values[name] === undefined) unused.push(`${name} (${file})`)
    else {
      const details = { name, file, stage: around.stage, off: describeTurnOff(loader) }
      problems.push(problem('environment-from-file', details, { layer: LAYER, name }))
    }
  }
  if (unused.length > 0) {
    const details = { names: unused, stage: around.stage, off: describeTurnOff(loader) }
    problems.push(problem('environment-loaded', details, { layer: LAYER }))
  }
  return { environment: { ...environment, values }, problems }
}

const LAYER = 'the process environment'

/**
 * The env file that may have given this process a variable that chooses its stage; `null` for one that was chosen. Code sets `NODE_ENV` to
 * what a file may well have too, so only a runtime that reads env files before any code puts it in doubt.
 *
 * @param directory that of the project, as far as it is known
 */
export function findFileOfStage(
  { values, isOfProcess }: ProcessEnvironment,
  name: 'MAPPA_STAGE' | 'NODE_ENV',
  directory: string,
): { readonly file: string; readonly turnOff: string } | null {
  const value = values[name]
  const loader = isOfProcess ? findKnownLoader(values) : null
  const isInDoubt = name === 'MAPPA_STAGE' ? !values.MAPPA_FILLED : loader?.isRuntime === true
  if (!isOfProcess || !value || !isInDoubt) return null
  const directories = [directory, getCurrentDirectory()]
  const found = listSayings(directories, loader, directory)
    .get(name)
    ?.find((each) => fits(each.value, value))
  if (found === undefined || findVariableOrigin(name, value) === 'start') return null
  return { file: found.file, turnOff: describeTurnOff(loader) }
}

/** The variables whose value an env file of the project has, or had when they were loaded. */
function listLoadable(
  values: Variables,
  { root, layersFrom, except }: Surroundings,
  loader: KnownLoader | null,
): { readonly name: string; readonly value: string; readonly file: string }[] {
  const directories = [root, ...layersFrom.map((each) => path.join(root, each)), getCurrentDirectory()]
  return [...listSayings(directories, loader, root)].flatMap(([name, sayings]) => {
    const value = values[name]
    if (value === undefined || except.includes(name)) return []
    const said = sayings.findLast((each) => fits(each.value, value))
    if (said === undefined && loadedBefore.get(name) !== value) return []
    return [{ name, value, file: (said ?? sayings.at(-1)!).file }]
  })
}

/** What all env files of directories say about each name, whatever their stage. */
function listSayings(
  directories: readonly string[],
  loader: KnownLoader | null,
  root: string,
): ReadonlyMap<string, readonly Saying[]> {
  const files = new Set([...directories.flatMap(listEnvFiles), ...(loader?.files ?? [])])
  const found = new Map<string, Saying[]>()
  for (const file of files) {
    for (const { name, value } of readEntries(file)) {
      const saying = { file: path.relative(root, file) || file, value }
      const same = found.get(name)
      if (same === undefined) found.set(name, [saying])
      else same.push(saying)
    }
  }
  return found
}

function listEnvFiles(directory: string): string[] {
  try {
    return fs
      .readdirSync(directory)
      .filter((name) => ['values', 'local'].includes(classifyEnvFile(name) ?? ''))
      .map((name) => path.join(directory, name))
  } catch {
    return []
  }
}

function readEntries(file: string): ParsedEnvFile['entries'] {
  try {
    return isRegularFile(file) ? ParsedEnvFile.readBytes(fs.readFileSync(file), null).entries : []
  } catch {
    return []
  }
}

/**
 * True where a loader can have made a value of an entry: the same text, or one that has the fixed pieces of it in their order. Loaders
 * differ in how they read quotes, backslashes and blanks, so these don't count.
 */
function fits(written: string | Template, value: string): boolean {
  if (typeof written === 'string') return written === value || strip(written) === strip(value)
  const bare = strip(value)
  let at = 0
  for (const piece of written) {
    if (typeof piece !== 'string') continue
    const found = bare.indexOf(strip(piece), at)
    if (found < 0) return false
    at = found + strip(piece).length
  }
  return true
}

const strip = (text: string) => text.replace(/[\\'"`\s]/g, '')
