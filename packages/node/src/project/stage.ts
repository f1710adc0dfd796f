import { isStage, type StageTree } from '@mappa/core/definition/stages'
import { mustBeStage, stageMeant } from '@mappa/core/problems/option-names'
import { type Problem, problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { findFileOfStage } from '../sources/environment/loaded-values.ts'
import type { ProcessEnvironment } from '../sources/environment/process-environment.ts'

/** The stage a program runs in, and what named it. */
export interface ChosenStage {
  readonly stage: string
  /** `--stage`, `MAPPA_STAGE`, `NODE_ENV` or such; as text for a person. */
  readonly from: string
  /** True where the program left the choice to the environment. */
  readonly unasked?: boolean
  /** True where nothing named it, so that it is the first of the definition. */
  readonly isAssumed?: boolean
  /** What is to be told about the choice. */
  readonly problems?: readonly Problem[]
}

/**
 * Chooses the stage: the one asked for, else `MAPPA_STAGE`, else `NODE_ENV` if it names a stage, else the first stage of the
 * definition. `NODE_ENV` has other uses too, such as `test`; a name that is close to a stage (`prod`, `Production`) is an error
 * all the same, since nobody means the first stage by it.
 *
 * @param asked the stage asked for, and what asked for it
 * @param root the directory of the project, whose env files may have been loaded into the environment
 * @returns the stage, with a notice if `NODE_ENV` names none
 * @throws {SettingsError} if the name is no stage, `NODE_ENV` is nearly one, or it may have been loaded from an env file, and another stage holds without it
 */
export function chooseStage(
  tree: Pick<StageTree, 'stages' | 'stagePatterns'>,
  environment: ProcessEnvironment,
  asked: ChosenStage | undefined,
  root: string,
): ChosenStage {
  const chosen = chooseNamed(tree, environment.values, asked)
  if (asked !== undefined) return chosen
  const name = environment.values.MAPPA_STAGE ? 'MAPPA_STAGE' : 'NODE_ENV'
  const loaded = findFileOfStage(environment, name, root)
  if (loaded === null) return chosen
  const without = chooseNamed(tree, { ...environment.values, [name]: undefined })
  if (without.stage === chosen.stage) return chosen
  const { file, turnOff: off } = loaded
  const problems = [problem('stage-from-file', { name, file, off }, { layer: 'the process environment', name })]
  throw new SettingsError({ title: 'Settings', stage: null, problems })
}

function chooseNamed(
  tree: Pick<StageTree, 'stages' | 'stagePatterns'>,
  { MAPPA_STAGE, NODE_ENV }: ProcessEnvironment['values'],
  asked?: ChosenStage,
): ChosenStage {
  const { stages } = tree
  const named = asked ?? (MAPPA_STAGE ? { stage: MAPPA_STAGE, from: 'MAPPA_STAGE' } : undefined)
  if (named !== undefined) {
    mustBeStage(named.stage, tree, named.from)
    return named
  }
  const first = { stage: stages[0]!, from: 'the definition, whose first stage it is', isAssumed: true }
  if (!NODE_ENV) return first
  if (isStage(tree, NODE_ENV)) return { stage: NODE_ENV, from: 'NODE_ENV' }
  if (stageMeant(NODE_ENV, stages) !== null) mustBeStage(NODE_ENV, tree, 'NODE_ENV')
  const given = JSON.stringify(NODE_ENV.slice(0, 80))
  return { ...first, problems: [problem('stage-assumed', { given, stage: first.stage, stages })] }
}

/**
 * Refuses a stage that nothing named, where the definition or an option demands that one is.
 *
 * @throws {SettingsError} that says how to name one
 */
export function mustBeNamed(
  { isAssumed = false }: ChosenStage,
  { stages, stagePatterns }: Pick<StageTree, 'stages' | 'stagePatterns'>,
): void {
  if (isAssumed)
    throw new SettingsError({
      title: 'Settings',
      stage: null,
      problems: [problem('stage-required', { stages: [...stages, ...stagePatterns] })],
    })
}

/** What is told of a stage that nothing named: on a host, it would be taken for another one. */
export function describeAssumed(
  { stage, isAssumed = false, problems = [] }: ChosenStage,
  { stages, stagePatterns }: Pick<StageTree, 'stages' | 'stagePatterns'>,
): Problem[] {
  // What NODE_ENV says was told already; with one stage there is nothing to name.
  const isTold = !isAssumed || problems.length > 0 || stages.length === 1
  return isTold ? [] : [problem('stage-not-named', { stage, stages: [...stages, ...stagePatterns] })]
}
