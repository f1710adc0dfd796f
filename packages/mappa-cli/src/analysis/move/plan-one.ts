import type { Finding } from '../survey/findings.ts'
import { type CheckedPlan, planMove } from './checked-plan.ts'
import type { MoveProject } from './options.ts'

/**
 * Works out what moving one finding does, as `mappa move` does it without further options. Writes nothing.
 *
 * @param surveyed all findings, those that stay as well
 * @param stage the stage of the value in the code
 * @throws {SettingsError} where the definition can't be added to
 */
export function planOne(
  project: MoveProject,
  finding: Finding,
  surveyed: readonly Finding[],
  stage: string,
): Promise<CheckedPlan> {
  return planMove(project, [finding], {
    stage,
    as: 'settings',
    asked: [],
    templates: false,
    clearOutputs: false,
    paths: new Map(),
    descriptions: new Map(),
    surveyed,
  })
}
