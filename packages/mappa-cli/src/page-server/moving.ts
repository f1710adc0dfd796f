import { randomUUID } from 'node:crypto'
import { movingProblem } from '@mappa/core/problems/catalogue/moving'
import { settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import type { MovePlan } from '../analysis/move/move-plan.ts'
import { describeObstacle } from '../analysis/move/obstacles.ts'
import { applyPlan } from '../analysis/move/plan.ts'
import { planOne } from '../analysis/move/plan-one.ts'
import { type Finding, listValues } from '../analysis/survey/findings.ts'
import { surveyProject } from '../analysis/survey/survey.ts'
import { findingViews } from '../views/findings.ts'
import { maskedDiff } from '../views/make-diff.ts'
import type { MoveView, SurveyView } from '../views/page.ts'
import type { LiveProject } from './live-project.ts'

/** So many plans can wait to be carried out. */
const MOST_PLANS = 20

/** The findings of a project, and the plans that were made of them. */
export class Moves {
  readonly #live: LiveProject
  readonly #plans = new Map<string, MovePlan>()
  #findings: readonly Finding[] = []

  constructor(live: LiveProject) {
    this.#live = live
  }

  /** Goes through the code again. */
  survey(): SurveyView {
    const { root, definition } = this.#live.project
    const { findings, files, skipped } = surveyProject(root, definition)
    this.#findings = findings
    const texts = new Map<string, readonly string[]>()
    const getLine = (file: string, line: number): string | null => {
      const known = texts.get(file) ?? listLines(path.resolve(root, file))
      texts.set(file, known)
      return known[line - 1] ?? null
    }
    return { findings: findingViews(findings, getLine), files, skipped }
  }

  /**
   * Works out what moving a finding does. Writes nothing.
   *
   * @param name the path proposed for the finding, as the last survey gave it
   * @param stage the stage of the value in the code
   * @throws {SettingsError} where there is no such finding any more, or it can't be moved at all
   */
  async plan(name: string, stage: string): Promise<MoveView> {
    const finding = this.#findings.find((each) => each.path === name)
    if (finding === undefined)
      throw settingsError(movingProblem('finding-unknown', { asked: JSON.stringify(name.slice(0, 80)), near: null }))
    const { root, definition, definitionPlace } = this.#live.project
    const project = { root, definition, definitionFile: definitionPlace }
    const plan = await planOne(project, finding, this.#findings, this.#live.project.stage(stage).stage)
    const id = randomUUID()
    this.#plans.set(id, plan)
    // Other windows have plans as well, so only the oldest go.
    for (const oldest of this.#plans.keys()) if (this.#plans.size > MOST_PLANS) this.#plans.delete(oldest)
    return { id, ...this.#shown(plan), canApply: plan.moved.length > 0 }
  }

  /**
   * Carries out a plan, once.
   *
   * @throws {SettingsError} where a file has changed since, or can't be written; nothing has changed then
   */
  async apply(id: string): Promise<readonly string[]> {
    const plan = this.#plans.get(id)
    this.#plans.delete(id)
    if (plan === undefined) throw settingsError(movingProblem('finding-unknown', { asked: 'this plan', near: null }))
    await applyPlan(this.#live.project.root, plan)
    await this.#live.refresh()
    return plan.changes.map(({ file }) => file)
  }

  #shown(plan: MovePlan): Pick<MoveView, 'stage' | 'diffs' | 'left'> {
    const hidden = {
      names: new Set(plan.definition.settings.filter(({ secret }) => secret).map(({ name }) => name)),
      values: this.#findings.filter(({ secret }) => secret).flatMap(listValues),
    }
    return {
      stage: plan.stage,
      diffs: plan.changes.map((change) => maskedDiff(change, hidden)),
      left: plan.left.map(({ file, line, column, obstacle }) => ({
        place: `${file}:${line}:${column}`,
        why: obstacle === null ? '' : describeObstacle(obstacle),
      })),
    }
  }
}

function listLines(file: string): readonly string[] {
  try {
    return readRegularText(file)?.split('\n') ?? []
  } catch {
    return []
  }
}
