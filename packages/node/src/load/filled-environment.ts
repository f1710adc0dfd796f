import type { Layer } from '@mappa/core/layers/layer'
import { STORE_LAYER } from '@mappa/core/layers/order'
import { type Problem, problem } from '@mappa/core/problems/problem'
import type { ProcessEnvironment } from '../sources/environment/process-environment.ts'

/** The texts that the files of a stage give, by variable names. */
export type TextsOf = (stage: string) => ReadonlyMap<string, string | undefined>

type Environment = Readonly<Record<string, string | undefined>>

/** For which stage Mappa put which variables into an environment. */
export interface Filled {
  /** An empty text where it put none there. */
  readonly stage: string
  readonly names: readonly string[]
  /** Those that a store gave. */
  readonly ofStore: ReadonlySet<string>
}

/** A variable that was put into an environment, and the layer that gave it. */
export interface FilledVariable {
  readonly name: string
  readonly layer: string | null
}

/** Stands before a name in `MAPPA_FILLED` whose value a store gave. */
const OF_STORE = '@'

/** What `MAPPA_FILLED` says: whoever gets an environment on can tell what Mappa put there from what a person has set. */
export function readFilled({ MAPPA_FILLED = '' }: Environment): Filled {
  const [stage = '', ...words] = MAPPA_FILLED.split(' ')
  const ofStore = words.filter((word) => word.startsWith(OF_STORE)).map((word) => word.slice(OF_STORE.length))
  return { stage, names: words.map((word) => word.replace(OF_STORE, '')), ofStore: new Set(ofStore) }
}

/** What `MAPPA_FILLED` says after more variables were put there. */
export function writeFilled(environment: Environment, stage: string, more: readonly FilledVariable[]): string {
  const { names, ofStore } = readFilled(environment)
  const byName = new Map(names.map((name) => [name, ofStore.has(name)]))
  for (const { name, layer } of more) byName.set(name, layer === STORE_LAYER)
  return [stage, ...[...byName].map(([name, isOfStore]) => (isOfStore ? OF_STORE + name : name))].join(' ')
}

/** An environment without what Mappa itself has put there, and what is to be said of that. */
export interface OwnEnvironment {
  readonly environment: ProcessEnvironment
  readonly problems: readonly Problem[]
}

/** What was found to come from the files of a stage, by directories and stages: the files may change afterwards, and the environment does not. */
const fromFiles = new Map<string, Map<string, string>>()

/** What is looked at: a stage, the directory of its files, and the variables and stages of the definition. */
export interface LookedAt {
  readonly stage: string
  readonly root: string
  readonly names: readonly string[]
  readonly stages: readonly string[]
  /** The layer of the store, where the program reads it. */
  readonly store: Layer | null
}

/** What is to be thought of a variable that Mappa put into an environment. */
type Verdict = 'used' | 'read again' | 'other in the store' | 'of another stage' | 'unclear'

/**
 * Takes out of an environment what Mappa put there, and nobody has chosen: it would lie above all files. What the files of the
 * stage gave is read from them again, as they are now, and what a store gave from the store, if this program reads it. What is of
 * another stage is not used, and that is said. What is neither may have been set on purpose, or not: for another stage that is an error.
 *
 * @param environment with `MAPPA_FILLED`
 */
export function withoutFilled(environment: ProcessEnvironment, of: LookedAt, textsOf: TextsOf): OwnEnvironment {
  const { stage } = of
  const filled = readFilled(environment.values)
  const names = filled.names.filter((name) => of.names.includes(name) && environment.values[name] !== undefined)
  if (names.length === 0) return { environment, problems: [] }
  const verdictOf = makeJudge(filled, of, textsOf)
  const verdicts = names.map((name) => [name, verdictOf(name, environment.values[name]!)] as const)
  const selectFilled = (wanted: Verdict) => verdicts.flatMap(([name, verdict]) => (verdict === wanted ? [name] : []))
  const [changed, others] = [selectFilled('other in the store'), selectFilled('of another stage')]
  const layer = 'the process environment'
  const details = { other: filled.stage, stage }
  const problems = [
    ...selectFilled('unclear').map((name) => problem('filled-unclear', { name, ...details }, { layer, name })),
    ...(changed.length === 0 ? [] : [problem('filled-from-store', { names: changed }, { layer })]),
    ...(others.length === 0 ? [] : [problem('filled-for-other', { names: others, ...details }, { layer })]),
  ]
  const values = { ...environment.values }
  for (const [name, verdict] of verdicts) if (verdict !== 'used' && verdict !== 'unclear') delete values[name]
  return { environment: { ...environment, values }, problems }
}

function makeJudge(
  { stage: other, ofStore }: Filled,
  { stage, root, stages, store }: LookedAt,
  textsOf: TextsOf,
): (name: string, value: string) => Verdict {
  const own = textsOf(stage)
  const known = fromFiles.get(`${root} ${stage}`) ?? new Map<string, string>()
  fromFiles.set(`${root} ${stage}`, known)
  const others = other !== stage && stages.includes(other) ? textsOf(other) : new Map()
  return (name, value) => {
    if (ofStore.has(name) && other !== stage) return 'of another stage'
    if (ofStore.has(name) && store !== null) return inStore(store, name, value)
    if (value === own.get(name)) known.set(name, value)
    if (value === known.get(name)) return 'read again'
    return other === stage ? 'used' : isOfOthers(value === others.get(name))
  }
}

const isOfOthers = (isTheirs: boolean): Verdict => (isTheirs ? 'of another stage' : 'unclear')

/** What is in the store now counts, also if that is nothing. */
function inStore(store: Layer, name: string, value: string): Verdict {
  return store.get(name)?.value === value ? 'read again' : 'other in the store'
}
