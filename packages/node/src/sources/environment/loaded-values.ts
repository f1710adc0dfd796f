import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import type { Layer } from '@mappa/core/layers/layer'
import { mergeLayers } from '@mappa/core/layers/merge'
import { type Problem, problem } from '@mappa/core/problems/problem'
import { fs, path } from '../../fs/builtin.ts'
import { isRegularFile } from '../../fs/regular-file.ts'
import { getCurrentDirectory } from '../../project/root.ts'
import { describeTurnOff, findKnownLoader, type KnownLoader } from './known-loaders.ts'
import type { ProcessEnvironment, Variables } from './process-environment.ts'
import { canGive, type Lookup, type Written } from './readings.ts'
import { findVariableOrigin } from './variable-origin.ts'

/** What env files of a project say about a variable. */
interface Saying {
  readonly file: string
  readonly value: Written
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
  const getWinner: Lookup = (name) => toList(below.winner(name)?.value ?? environment.values[name])
  const values: Record<string, string | undefined> = { ...environment.values }
  const unused: string[] = []
  const problems: Problem[] = []
  for (const { name, value, file } of listLoadable(environment.values, around, loader)) {
    const origin = findVariableOrigin(name, value)
    if (origin === 'start') continue
    loadedBefore.set(name, value)
    const winner = below.winner(name)?.value
    const isSame = winner !== undefined && canGive(winner, value, getWinner)
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

const toList = <T>(value: T | undefined): readonly T[] => (value === undefined ? [] : [value])

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
  // Asked first, since it takes less than to read all env files.
  if (findVariableOrigin(name, value) === 'start') return null
  const sayings = listSayings([directory, getCurrentDirectory()], loader, directory)
  const found = sayings.get(name)?.find((each) => canGive(each.value, value, listAll(sayings, values)))
  return found === undefined ? null : { file: found.file, turnOff: describeTurnOff(loader) }
}

/** The variables whose value an env file of the project has, or had when they were loaded. */
function listLoadable(
  values: Variables,
  { root, layersFrom, except }: Surroundings,
  loader: KnownLoader | null,
): { readonly name: string; readonly value: string; readonly file: string }[] {
  const directories = [root, ...layersFrom.map((each) => path.join(root, each)), getCurrentDirectory()]
  const all = listSayings(directories, loader, root)
  const lookup = listAll(all, values)
  return [...all].flatMap(([name, sayings]) => {
    const value = values[name]
    if (value === undefined || except.includes(name)) return []
    const said = sayings.findLast((each) => canGive(each.value, value, lookup))
    if (said === undefined && loadedBefore.get(name) !== value) return []
    return [{ name, value, file: (said ?? sayings.at(-1)!).file }]
  })
}

/** Everything that a variable may have been for a loader, which knows no stages: its value now, and what any file says. */
function listAll(sayings: ReadonlyMap<string, readonly Saying[]>, values: Variables): Lookup {
  return (name) => [...toList(values[name]), ...(sayings.get(name) ?? []).map(({ value }) => value)]
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
