import { isStage, type StageTree } from '../definition/stages.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { problem } from './problem.ts'
import { SettingsError } from './settings-error.ts'

/**
 * Refuses options that a function does not have: a misspelled option would have no effect, and nobody would notice.
 *
 * @param given the options as they were given
 * @param known the names of all options
 * @param where the name of the function, for the sentence
 * @throws {SettingsError} naming every unknown option, with the closest known one
 * @example
 * ```ts
 * checkOptionNames({ stgae: 'staging' }, ['stage', 'root'], 'loadSettings') // throws: Did you mean stage?
 * ```
 */
export function checkOptionNames(given: unknown, known: readonly string[], where: string): void {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) {
    const other = Array.isArray(given) ? 'a list' : `a ${typeof given}`
    const found = given === null ? 'null' : other
    throw refusal([problem('options-not-object', { where, found })])
  }
  const unknown = Object.keys(given).filter((option) => !known.includes(option))
  if (unknown.length === 0) return
  throw refusal(
    unknown.map((option) =>
      problem('option-unknown', { where, option, options: known, near: makeClosestMatch(known)(option) }),
    ),
  )
}

/**
 * Refuses a stage that a definition lacks.
 *
 * @param from what named it, as text
 * @throws {SettingsError} with the closest stage
 */
export function mustBeStage(stage: unknown, tree: Pick<StageTree, 'stages' | 'stagePatterns'>, from: string): void {
  if (isStage(tree, stage)) return
  const { stages, stagePatterns } = tree
  const name = typeof stage === 'string' ? stage : String(stage)
  const near = stageMeant(name, stages)
  throw refusal([
    problem('stage-unknown', {
      stage: JSON.stringify(name.slice(0, 80)),
      from,
      stages: [...stages, ...stagePatterns],
      near,
    }),
  ])
}

function refusal(problems: ConstructorParameters<typeof SettingsError>[0]['problems']): SettingsError {
  return new SettingsError({ title: 'Settings', stage: null, problems })
}

/** What people shorten the names of stages to. */
const SHORT_NAMES: Readonly<Record<string, string>> = {
  dev: 'development',
  devel: 'development',
  develop: 'development',
  prod: 'production',
  prd: 'production',
  live: 'production',
  stage: 'staging',
  stg: 'staging',
  testing: 'test',
}

/**
 * The stage that was probably meant: one that differs in case alone or in a letter or two, or a usual short or long form
 * of it.
 *
 * @returns `null` where none is close
 * @example
 * ```ts
 * stageMeant('prod', ['development', 'production']) // 'production'
 * stageMeant('development', ['dev', 'live'])         // 'dev'
 * ```
 */
export function stageMeant(word: string, stages: readonly string[]): string | null {
  const trimmed = word.trim().toLowerCase()
  const same = stages.find((stage) => stage === trimmed)
  if (same !== undefined) return same
  const shorten = (name: string) => (Object.hasOwn(SHORT_NAMES, name) ? SHORT_NAMES[name]! : name)
  return (
    stages.find((stage) => shorten(stage) === shorten(trimmed)) ??
    makeClosestMatch(stages)(trimmed) ??
    stages.find((stage) => trimmed.length > 2 && stage.startsWith(trimmed)) ??
    null
  )
}
