import type { Declaration } from '@mappa/core/definition/definition'
import { describeOriginLabel, type Origin } from '@mappa/core/layers/layer'
import type { Problem } from '@mappa/core/problems/problem'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import type { Marks } from '../analysis/compare/marks.ts'
import { compareStages } from '../analysis/compare/stages.ts'
import type { Cell, Relation } from '../analysis/compare/table.ts'
import { type ProblemView, problemView } from './problem.ts'

/** Stages by settings: what a person sees first, on a page, in a report and in a comment. */
export interface Overview {
  /** What the project is called. */
  readonly project: string
  readonly stages: readonly StageView[]
  /** The settings in their groups, in the order of the definition. */
  readonly groups: readonly GroupView[]
}

/** A stage: the head of a column. */
export interface StageView {
  readonly name: string
  readonly errors: number
  readonly notices: number
  /** Everything that is wrong in it, errors first. */
  readonly problems: readonly ProblemView[]
}

/** Settings whose paths begin with the same keys. */
export interface GroupView {
  /** The keys, such as `dome`; empty for settings that are in no group. */
  readonly path: string
  readonly rows: readonly RowView[]
}

/** A setting in all stages. */
export interface RowView {
  readonly path: string
  readonly name: string
  readonly description: string
  /** What kind of value it holds, such as `whole number`. */
  readonly kind: string
  readonly secret: boolean
  readonly public: boolean
  readonly required: boolean
  readonly relation: Relation
  readonly cells: readonly CellView[]
}

/** A setting in one stage. */
export interface CellView extends Cell {
  /** What a person calls the place that the value comes from: `.env.production:3`; `null` where there is no value. */
  readonly from: string | null
  /** The places that are overridden by it, the highest first. Defaults are no such place. */
  readonly overridden: readonly string[]
  /** Other stages with the same value, where that must not be. */
  readonly sameAs: readonly string[]
  /** True for a value that should have been rotated by now. */
  readonly overdue: boolean
  /** The worst that is wrong with it. */
  readonly severity: Problem['severity'] | null
}

/** What {@link toOverview} needs beside the stages. */
export interface OverviewOptions {
  /** What the project is called. */
  readonly project: string
  /**
   * Marks for masked values. Given again for a later overview, equal values keep their marks, so that a change can be told.
   * @default drawn anew
   */
  readonly marks?: Marks
}

/**
 * Puts everything that is known of stages side by side.
 *
 * @param stages the stages, resolved and checked together
 * @returns plain data without any secret
 */
export function toOverview(stages: readonly Resolution[], { project, marks }: OverviewOptions): Overview {
  const { rows } = compareStages(stages, marks)
  const byPath = stages.map(({ problems }) => bySetting(problems))
  const views = (stages[0]?.settings ?? []).map(({ declaration }, index) => {
    const cells = stages.map((stage, column) => {
      const problems = byPath[column]!.get(declaration.path) ?? []
      return cellView(rows[index]!.cells[column]!, stage, stage.settings[index]!, problems, stages)
    })
    return rowView(declaration, rows[index]!.relation, cells)
  })
  const getGroup = (index: number) => stages[0]!.settings[index]!.declaration.keys.slice(0, -1).join('.')
  return { project, stages: stages.map(stageView), groups: inGroups(views, getGroup) }
}

function stageView({ stage, problems }: Resolution): StageView {
  const errors = problems.filter(({ severity }) => severity === 'error')
  const notices = problems.filter(({ severity }) => severity === 'notice')
  return {
    name: stage,
    errors: errors.length,
    notices: notices.length,
    problems: [...errors, ...notices].map(problemView),
  }
}

function rowView(declaration: Declaration, relation: Relation, cells: readonly CellView[]): RowView {
  const { path, name, description, kind, options, secret, optional } = declaration
  return {
    path,
    name,
    description,
    kind: kind.describe(options),
    secret,
    public: declaration.public,
    required: !optional && declaration.default === undefined,
    relation,
    cells,
  }
}

function cellView(
  cell: Cell,
  { layers }: Resolution,
  setting: ResolvedSetting,
  problems: readonly Problem[],
  stages: readonly Resolution[],
): CellView {
  const label = (origin: Origin) =>
    describeOriginLabel(origin, layers.find(({ id }) => id === origin.layer)?.title ?? origin.layer)
  const [, ...beaten] = setting.candidates()
  return {
    ...cell,
    from: cell.origin === null ? null : label(cell.origin),
    overridden: beaten.filter(({ layer }) => layer.kind !== 'defaults').map(({ origin }) => label(origin)),
    sameAs: problems.some(({ code }) => code === 'value-shared') ? sharing(setting, stages) : [],
    overdue: problems.some(({ code }) => code === 'rotation-due'),
    severity: findWorst(problems),
  }
}

/** The stages that a check found to have a value that they must not share. */
function sharing({ declaration: { path } }: ResolvedSetting, stages: readonly Resolution[]): readonly string[] {
  return stages
    .filter(({ problems }) => problems.some(({ code, setting }) => code === 'value-shared' && setting === path))
    .map(({ stage }) => stage)
}

function findWorst(problems: readonly Problem[]): Problem['severity'] | null {
  if (problems.length === 0) return null
  return problems.some(({ severity }) => severity === 'error') ? 'error' : 'notice'
}

function bySetting(problems: readonly Problem[]): ReadonlyMap<string | null, readonly Problem[]> {
  const found = new Map<string | null, Problem[]>()
  for (const each of problems) {
    const known = found.get(each.setting)
    if (known === undefined) found.set(each.setting, [each])
    else known.push(each)
  }
  return found
}

/** Neighbours whose paths begin alike are one group, in the order of the definition. */
function inGroups(rows: readonly RowView[], getGroup: (index: number) => string): readonly GroupView[] {
  const groups = new Map<string, RowView[]>()
  for (const [index, row] of rows.entries()) {
    const path = getGroup(index)
    const known = groups.get(path)
    if (known === undefined) groups.set(path, [row])
    else known.push(row)
  }
  return [...groups].map(([path, members]) => ({ path, rows: members }))
}
