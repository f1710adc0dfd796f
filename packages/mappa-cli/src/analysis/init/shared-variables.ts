import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { listLayerFiles } from '@mappa/core/layers/order'
import { type DraftSetting, draftSetting, type Variable } from './draft.ts'
import type { FileValue, Variables } from './variables.ts'

/** A package and the variables that it uses. */
export interface PackageVariables {
  /** Relative to the root of the repository; `.` for that itself. */
  readonly directory: string
  readonly variables: Variables
}

/** A variable that several packages use. */
export interface SharedVariable {
  readonly name: string
  /** The directories of the packages. */
  readonly users: readonly string[]
  /** The setting that it becomes; `null` where packages have different values, so that each keeps its own. */
  readonly draft: DraftSetting | null
  /** Values that can move into the layer files of the root without a change for any package. */
  readonly moves: readonly ValueMove[]
}

/** A value that moves from one layer file to another; both relative to the root of the repository. */
export interface ValueMove {
  readonly name: string
  readonly from: string
  readonly to: string
}

/** The layer files of one package. */
type Files = ReadonlyMap<string, FileValue>

/**
 * Finds the variables that several packages use, and whether their values are the same in all of them.
 *
 * @param packages those without a definition
 * @param stages the stages that they get
 */
export function findSharedVariables(
  packages: readonly PackageVariables[],
  stages: readonly string[],
): SharedVariable[] {
  const names = new Set(packages.flatMap(({ variables }) => [...variables.byName.keys()]))
  return [...names].sort().flatMap((name) => {
    const users = packages.filter(({ variables }) => variables.byName.has(name))
    if (users.length < 2) return []
    const filesOf = new Map(users.map((each): [string, Files] => [each.directory, listValues(name, each)]))
    const all = users.map(({ variables }) => variables.byName.get(name)!)
    const isSame = agree(filesOf, stages) && haveOneFallback(all)
    const draft = isSame ? draftSetting(name, mergeValues(all)) : null
    const moves = draft === null ? [] : planMoves(name, filesOf, draft.secret, stages)
    return [{ name, users: users.map(({ directory }) => directory), draft, moves }]
  })
}

function listValues(name: string, { variables }: PackageVariables): Files {
  const found = [...variables.files].flatMap(([file, values]): [string, FileValue][] => {
    const value = values.get(name)
    return value === undefined ? [] : [[file, value]]
  })
  return new Map(found)
}

/** What holds in a stage, by the files of one package. */
function findWinner(files: Files, stage: string): string | undefined {
  const file = listLayerFiles(stage).findLast((each) => files.has(each))
  return file === undefined ? undefined : files.get(file)!.text
}

function agree(filesOf: ReadonlyMap<string, Files>, stages: readonly string[]): boolean {
  return stages.every((stage) => {
    const values = new Set([...filesOf.values()].flatMap((files) => findWinner(files, stage) ?? []))
    return values.size < 2
  })
}

function haveOneFallback(variables: readonly Variable[]): boolean {
  return new Set(variables.flatMap(({ fallback }) => fallback ?? [])).size < 2
}

function mergeValues(variables: readonly Variable[]): Variable {
  const needed = variables.some((each) => each.needed)
  return {
    values: variables.flatMap(({ values }) => values),
    isDoneWithout: !needed && variables.some(({ isDoneWithout }) => isDoneWithout),
    needed,
    built: variables.every(({ built }) => built),
    takenAs: variables.find(({ takenAs }) => takenAs !== null)?.takenAs ?? null,
    isSecret: variables.some(({ isSecret }) => isSecret),
    fallback: variables.find(({ fallback }) => fallback !== null)?.fallback ?? null,
  }
}

/** The moves after which every package has the values that it had, and those that had none may have them as well. */
function planMoves(
  name: string,
  filesOf: ReadonlyMap<string, Files>,
  isSecret: boolean,
  stages: readonly string[],
): readonly ValueMove[] {
  const target = (file: string) => (isSecret && !isLocalFile(file) ? `${file}.local` : file)
  const all = [...filesOf].flatMap(([directory, files]) =>
    [...files].map(([file, value]) => {
      return { from: directory === '.' ? file : `${directory}/${file}`, to: target(file), value }
    }),
  )
  const shared = new Map(all.map(({ to, value }) => [to, value]))
  // References may mean something else there, and two values can't both be in one file.
  if (all.some(({ to, value }) => value.hasReferences || shared.get(to)!.text !== value.text)) return []
  const isKept = [...filesOf.values()].every((files) =>
    stages.every((stage) => (findWinner(files, stage) ?? findWinner(shared, stage)) === findWinner(shared, stage)),
  )
  return isKept ? all.filter(({ from, to }) => from !== to).map(({ from, to }) => ({ name, from, to })) : []
}
