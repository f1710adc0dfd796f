import { problem } from '../core/problems/problem.ts'
import { SettingsError } from '../core/problems/settings-error.ts'
import { nearestOf } from '../core/text/near.ts'

/** The stage a program runs in, and what named it. */
export interface ChosenStage {
  readonly stage: string
  /** `--stage`, `MAPPA_STAGE`, `NODE_ENV` or such; in words for a person. */
  readonly from: string
}

/**
 * Chooses the stage: the one asked for, else `MAPPA_STAGE`, else `NODE_ENV` where it names a stage, else the
 * first stage of the definition.
 *
 * @param asked the stage asked for, and what asked for it
 * @throws {SettingsError} where the name is none of the stages; `NODE_ENV` alone may hold other names
 */
export function chooseStage(
  stages: readonly string[],
  environment: Readonly<Record<string, string | undefined>>,
  asked?: ChosenStage,
): ChosenStage {
  const { MAPPA_STAGE, NODE_ENV } = environment
  const named = asked ?? (MAPPA_STAGE ? { stage: MAPPA_STAGE, from: 'MAPPA_STAGE' } : undefined)
  if (named !== undefined) {
    if (stages.includes(named.stage)) return named
    const near =
      nearestOf(stages)(named.stage) ??
      stages.find((each) => named.stage.length > 2 && each.startsWith(named.stage)) ??
      null
    const stage = JSON.stringify(named.stage.slice(0, 80))
    throw new SettingsError({
      title: 'Settings',
      stage: null,
      problems: [problem('stage-unknown', { stage, from: named.from, stages, near })],
    })
  }
  if (NODE_ENV !== undefined && stages.includes(NODE_ENV)) return { stage: NODE_ENV, from: 'NODE_ENV' }
  return { stage: stages[0]!, from: 'the definition, whose first stage it is' }
}
