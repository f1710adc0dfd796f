import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { isStageName } from './naming.ts'
import { readMembers } from './plain-object.ts'

/** The stages of a definition that names none. */
export const DEFAULT_STAGES: readonly string[] = ['development', 'staging', 'production']

/** What a stage can say of itself. */
export interface StageOptions {
  /**
   * A stage whose layer files, rules and defaults hold in this one, too, below its own.
   * @default none
   */
  readonly like?: string
}

/** The stages of a definition, and how they stand to each other. */
export interface StageTree {
  /** The stages by name, the one that holds where none is named first. */
  readonly stages: readonly string[]
  /** Names with one `*` in the place of any text: each stage of such a name exists, unless `stages` has it by its name. */
  readonly stagePatterns: readonly string[]
  /** The stage that each is like, by name or pattern. */
  readonly stageLikes: Readonly<Record<string, string>>
}

/** Stages by their names alone. */
export function makeStageTree(stages: readonly string[]): StageTree {
  return { stages, stagePatterns: [], stageLikes: {} }
}

/** True for a stage that a definition has, by its name or by a pattern. */
export function isStage(tree: Pick<StageTree, 'stages' | 'stagePatterns'>, stage: unknown): boolean {
  return isStageName(stage) && (tree.stages.includes(stage) || findPattern(tree.stagePatterns, stage) !== null)
}

/** The pattern for a name, the longest first; `null` where none fits. */
export function findPattern(patterns: readonly string[], stage: string): string | null {
  const fitting = patterns.filter((pattern) => {
    const [before = '', after = ''] = pattern.split('*')
    return stage.length > before.length + after.length && stage.startsWith(before) && stage.endsWith(after)
  })
  return fitting.reduce<string | null>(
    (best, each) => (best !== null && best.length >= each.length ? best : each),
    null,
  )
}

/**
 * A stage with all that it takes rules from, the nearest first.
 *
 * @param stage a stage or a pattern of the definition
 * @example
 * ```ts
 * listLineage(definition, 'preview-7') // ['preview-7', 'preview-*', 'staging']
 * ```
 */
export function listLineage({ stages, stagePatterns, stageLikes }: StageTree, stage: string): readonly string[] {
  const lineage = [stage]
  const pattern = stages.includes(stage) || stagePatterns.includes(stage) ? null : findPattern(stagePatterns, stage)
  if (pattern !== null) lineage.push(pattern)
  const getLike = (each: string) => (Object.hasOwn(stageLikes, each) ? stageLikes[each] : undefined)
  for (let like = getLike(lineage.at(-1)!); like !== undefined && !lineage.includes(like); like = getLike(like))
    lineage.push(like)
  return lineage
}

/**
 * The stages whose layer files a stage has below its own, the nearest first.
 *
 * @example
 * ```ts
 * listAncestors(definition, 'preview-7') // ['staging']
 * ```
 */
export function listAncestors(tree: StageTree, stage: string): readonly string[] {
  return listLineage(tree, stage)
    .slice(1)
    .filter((each) => tree.stages.includes(each))
}

/** All stages that others are like: those that are like none come first. */
export function listAllAncestors(tree: StageTree): readonly string[] {
  const ancestors = [...new Set(Object.values(tree.stageLikes))]
  const countAncestors = (stage: string) => listAncestors(tree, stage).length
  return ancestors.sort((a, b) => countAncestors(a) - countAncestors(b))
}

/** Names with one `*` that begin as names do, so that none stands for all. */
const PATTERN = /^[a-z][a-z0-9-]*\*[a-z0-9-]*$/

/**
 * Reads the stages of a definition.
 *
 * @param given a list of names, or an object with what each says of itself
 * @param reporter is told everything that is wrong
 */
export function readStages(given: unknown, reporter: Reporter): StageTree {
  const members = Array.isArray(given) ? null : readMembers(given)
  const names: readonly unknown[] | null = Array.isArray(given)
    ? given
    : (members?.entries.map(([name]) => name) ?? null)
  if (names === null || names.length === 0 || (members?.faults.length ?? 0) > 0) {
    reporter.report(problem('stages-wrong', {}))
    return makeStageTree(DEFAULT_STAGES)
  }
  const seen = new Set<unknown>()
  for (const name of names) {
    const isName = isStageName(name) || (members !== null && PATTERN.test(String(name)))
    if (!isName) reporter.report(problem('stage-name-wrong', { stage: String(name) }))
    else if (seen.has(name)) reporter.report(problem('stage-name-twice', { stage: String(name) }))
    seen.add(name)
  }
  const all = names as readonly string[]
  const stages = all.filter((name) => !String(name).includes('*'))
  const stagePatterns = all.filter((name) => String(name).includes('*'))
  if (stages.length === 0) reporter.report(problem('stages-wrong', {}))
  return { stages, stagePatterns, stageLikes: readLikes(members?.entries ?? [], stages, reporter) }
}

function readLikes(
  entries: readonly (readonly [name: string, options: unknown])[],
  stages: readonly string[],
  reporter: Reporter,
): Readonly<Record<string, string>> {
  const likes: Record<string, string> = Object.create(null)
  for (const [stage, given] of entries) {
    const options = readMembers(given)
    if (options === null || options.entries.some(([option]) => option !== 'like')) {
      reporter.report(problem('stage-options-wrong', { stage }))
      continue
    }
    const like = options.entries[0]?.[1]
    if (like === undefined) continue
    if (typeof like === 'string' && stages.includes(like)) likes[stage] = like
    else
      reporter.report(
        problem('stage-like-unknown', {
          stage,
          like: String(like),
          stages,
          near: makeClosestMatch(stages)(String(like)),
        }),
      )
  }
  for (const stage of Object.keys(likes)) {
    if (!isCircular(likes, stage)) continue
    reporter.report(problem('stage-like-circular', { stage, like: likes[stage]! }))
    delete likes[stage]
  }
  return likes
}

function isCircular(likes: Readonly<Record<string, string>>, stage: string): boolean {
  const seen = new Set<string>()
  for (let next: string | undefined = stage; next !== undefined; next = likes[next]) {
    if (seen.has(next)) return true
    seen.add(next)
  }
  return false
}
