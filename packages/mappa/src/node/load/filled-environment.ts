import { type Problem, problem } from '../../core/problems/problem.ts'
import type { ProcessEnvironment } from '../sources/runtime-environment.ts'

/** The texts that the files of a stage give, by variable names. */
export type TextsOf = (stage: string) => ReadonlyMap<string, string | undefined>

type Environment = Readonly<Record<string, string | undefined>>

/** For which stage Mappa put which variables into an environment. */
export interface Filled {
  /** An empty text where it put none there. */
  readonly stage: string
  readonly names: readonly string[]
}

/** What `MAPPA_FILLED` says: whoever gets an environment on can tell what Mappa put there from what a person has set. */
export function filledIn({ MAPPA_FILLED = '' }: Environment): Filled {
  const [stage = '', ...names] = MAPPA_FILLED.split(' ')
  return { stage, names }
}

/** What `MAPPA_FILLED` says after more variables were put there. */
export function filledWith(environment: Environment, stage: string, names: readonly string[]): string {
  return [...new Set([stage, ...filledIn(environment).names, ...names])].join(' ')
}

/** An environment without what Mappa itself has put there, and what is to be said of that. */
export interface OwnEnvironment {
  readonly environment: ProcessEnvironment
  readonly problems: readonly Problem[]
}

/** What was found to come from the files of a stage, by directories and stages: the files may change afterwards, and the environment does not. */
const fromFiles = new Map<string, Map<string, string>>()

/**
 * Takes out of an environment what Mappa put there, and nobody has chosen: it would lie above all files. What the files of the
 * stage gave is read from them again, as they are now. What is of another stage is not used, and that is said. What is neither may
 * have been set on purpose, or not: for another stage that is an error.
 *
 * @param environment with `MAPPA_FILLED`
 * @param of the stage that is looked at, the directory of its files, and the variables and stages of the definition
 */
export function withoutFilled(
  environment: ProcessEnvironment,
  of: {
    readonly stage: string
    readonly root: string
    readonly names: readonly string[]
    readonly stages: readonly string[]
  },
  textsOf: TextsOf,
): OwnEnvironment {
  const { stage, root, stages } = of
  const { stage: other, names } = filledIn(environment.values)
  const filled = names.filter((name) => of.names.includes(name) && environment.values[name] !== undefined)
  if (filled.length === 0) return { environment, problems: [] }
  const own = textsOf(stage)
  const known = fromFiles.get(`${root} ${stage}`) ?? new Map<string, string>()
  fromFiles.set(`${root} ${stage}`, known)
  const others = other !== stage && stages.includes(other) ? textsOf(other) : new Map()
  const values = { ...environment.values }
  const unused: string[] = []
  const problems: Problem[] = []
  for (const name of filled) {
    const value = values[name]!
    if (value === own.get(name)) known.set(name, value)
    if (value === known.get(name)) delete values[name]
    else if (other !== stage && value === others.get(name)) {
      delete values[name]
      unused.push(name)
    } else if (other !== stage)
      problems.push(problem('filled-unclear', { name, other, stage }, { layer: 'the process environment', name }))
  }
  if (unused.length > 0)
    problems.push(problem('filled-for-other', { names: unused, other, stage }, { layer: 'the process environment' }))
  return { environment: { ...environment, values }, problems }
}
