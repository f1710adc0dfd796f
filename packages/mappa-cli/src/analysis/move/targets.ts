import { acceptText } from '@mappa/core/definition/accept'
import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { kindsByName } from '@mappa/core/definition/kinds/by-name'
import { isPathKey, variableName } from '@mappa/core/definition/naming'
import type { EnvDocument } from '@mappa/core/envfile/document'
import { listLayerFiles } from '@mappa/core/layers/order'
import { movingProblem } from '@mappa/core/problems/catalogue/moving'
import { settingsError } from '@mappa/core/problems/settings-error'
import { describeName } from '../init/draft.ts'
import { type Finding, findValue, listValues } from '../survey/findings.ts'
import { PathRegister } from '../survey/propose.ts'
import type { NewSetting } from './definition-source.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import type { MoveOverrides } from './options.ts'
import type { MovePlace } from './source-changes.ts'

/** Where a finding goes: to a setting that is there, to a new one, or nowhere. */
export type Target =
  | {
      readonly finding: Finding
      readonly existing: Declaration
      /** The default that a setting gets which could be missing so far; `null` where it has to have a value instead. */
      readonly required?: { readonly default: string | number | null }
    }
  | { readonly finding: Finding; readonly added: NewSetting }
  | { readonly finding: Finding; readonly obstacle: Obstacle }

/** A finding that becomes a setting. */
export interface MovedFinding {
  readonly finding: Finding
  readonly declaration: Declaration
  /** The layer files that get values; empty where the value is the default of the definition. */
  readonly layers: readonly MovedValue[]
  readonly places: readonly MovePlace[]
}

/** The value that a layer file gets. */
export interface MovedValue {
  readonly stage: string
  /** Relative to the root. */
  readonly file: string
  readonly value: string
}

/** What is known of a stage that values are for. */
export interface StageValues {
  readonly stage: string
  /** The text of a setting in this stage; `undefined` where it has none. */
  readonly textOf: (path: string) => string | undefined
  /** The layer files of the stage that exist, lowest first. */
  readonly documents: ReadonlyMap<string, EnvDocument>
}

/** What is there already, and what a person asked for. */
interface KnownSettings {
  readonly definition: Definition | null
  /** The stages: first the one that the values in the code are for, then those that only conditionals have values for. */
  readonly values: readonly StageValues[]
  readonly overrides: MoveOverrides
  /** True for a finding that pages need. */
  readonly isPublic: (finding: Finding) => boolean
}

/**
 * Decides for each finding which setting it becomes. A value that a setting has already becomes that setting; a setting
 * that has no value yet and the right name takes it; otherwise a new one is made.
 *
 * @throws {SettingsError} where a path that was asked for can't be used
 */
export function planTargets(
  findings: readonly Finding[],
  { definition, values, overrides, isPublic }: KnownSettings,
): readonly Target[] {
  const settings = definition?.settings ?? []
  const register = new PathRegister(settings)
  /** The value that each setting without one gets. */
  const given = new Map<string, string>()
  const context: TargetContext = { settings, prefix: definition?.prefix ?? '', register, values, given }
  const unclear = withDifferentFallbacks(overrides.surveyed)
  return findings.map((finding) => {
    const fallback = finding.places.find(({ variable }) => variable !== null && unclear.has(variable))?.variable
    if (fallback != null) return { finding, obstacle: makeObstacle('fallbacks-differ', { name: fallback }) }
    const path = overrides.paths.get(finding)
    const reused = reuseIfFree(finding, path, context)
    if (reused !== null) return reused
    const variable = finding.places.find((each) => each.variable !== null)?.variable ?? null
    const other = variable === null ? null : findFileWithOther(variable, finding, values)
    if (other !== null) return { finding, obstacle: makeObstacle('never-used', { name: variable!, place: other }) }
    const wish = { path, description: overrides.descriptions.get(finding) }
    const added = makeNewSetting(finding, wish, variable, context)
    return { finding, added: { ...added, public: isPublic(finding) } }
  })
}

/** The variables for which the code falls back to one value here and to another there: what sets them changes one of the two. */
function withDifferentFallbacks(findings: readonly Finding[]): ReadonlySet<string> {
  const values = new Map<string, Set<string>>()
  for (const finding of findings)
    for (const { variable } of finding.places) {
      if (variable === null) continue
      const known = values.get(variable) ?? new Set()
      values.set(variable, known.add(listValues(finding).join('\0')))
    }
  return new Set([...values].flatMap(([variable, { size }]) => (size > 1 ? [variable] : [])))
}

/** What is known while targets are chosen. */
interface TargetContext {
  readonly settings: readonly Declaration[]
  readonly prefix: string
  readonly register: PathRegister
  readonly values: readonly StageValues[]
  /** The value that each setting without one gets, by stage and path. */
  readonly given: Map<string, string>
}

/** The stages that a finding has a value for. */
function listStages({ stageValues }: Finding, values: readonly StageValues[]): readonly StageValues[] {
  return stageValues === null ? values.slice(0, 1) : values
}

/** The setting that a finding becomes. */
function makeNewSetting(
  finding: Finding,
  wish: { readonly path: string | undefined; readonly description: string | undefined },
  variable: string | null,
  { prefix, register, values }: TargetContext,
): NewSetting {
  const path = wish.path === undefined ? chooseFreePath(finding, register, values) : readWish(wish.path, register)
  const name = variable !== null && register.getPath(variable) === null ? variable : null
  const keys = path.split('.')
  const follows = variableName(keys, prefix)
  register.add(path, name ?? follows)
  return {
    keys,
    kind: chooseFittingKind(finding),
    description: wish.description ?? describeName(keys.join(' ')),
    secret: finding.secret,
    public: false,
    name: name === follows ? null : name,
    default: chooseDefault(finding),
  }
}

/** The layer file that a setting's value goes into. */
export function chooseLayer({ secret }: Pick<Declaration, 'secret'>, stage: string): string {
  return listLayerFiles(stage)[secret ? 3 : 2]
}

/** True for a setting that a finding is, by its value if it is a secret, or by the name in the code. */
function isSame(finding: Finding, { path, secret }: Declaration, values: readonly StageValues[]): boolean {
  const hasValue = (each: StageValues) => each.textOf(path) === findValue(finding, each.stage)
  return (finding.secret && secret && listStages(finding, values).every(hasValue)) || path === finding.like
}

/**
 * An existing setting as a target, unless it has another value; then an obstacle if it was asked for.
 *
 * @param wish the path that was asked for
 */
function reuseIfFree(
  finding: Finding,
  wish: string | undefined,
  { settings, values, given }: TargetContext,
): Target | null {
  const known = settings.find((each) => (wish === undefined ? isSame(finding, each, values) : each.path === wish))
  if (known === undefined) return null
  const own = listStages(finding, values)
  const other = own.find(({ stage, textOf }) => {
    const present = textOf(known.path) ?? given.get(`${stage} ${known.path}`)
    return present !== undefined && present !== findValue(finding, stage)
  })
  if (other !== undefined) {
    const obstacle = makeObstacle('other-value', { name: known.name, place: other.stage })
    return wish === undefined ? null : { finding, obstacle }
  }
  const target = reuse(finding, known)
  if ('existing' in target) for (const { stage } of own) given.set(`${stage} ${known.path}`, findValue(finding, stage))
  return target
}

function reuse(finding: Finding, existing: Declaration): Target {
  const converted = listValues(finding).map((each) => acceptText(existing, each))
  if (converted.some(({ failures }) => failures.length > 0))
    return { finding, obstacle: makeObstacle('rules', { name: existing.name }) }
  if (converted.some(({ value }) => typeof value !== 'string' && typeof value !== 'number'))
    return { finding, obstacle: makeObstacle('kind', { name: existing.name, kind: existing.kind.name }) }
  if (finding.secret && !existing.secret)
    return { finding, obstacle: makeObstacle('no-secret', { name: existing.name }) }
  if (!existing.optional || existing.default !== undefined) return { finding, existing }
  return { finding, existing, required: { default: existing.secret ? null : chooseDefault(finding) } }
}

/** What code took for a variable that is not set: the default of its setting, unless it is a secret. */
function chooseDefault(finding: Finding): string | number | null {
  const isFallback = finding.places.some(({ variable }) => variable !== null)
  if (finding.secret || finding.stageValues !== null || !isFallback) return null
  return chooseFittingKind(finding) === 'port' ? Number(finding.value) : finding.value
}

/** The path that was proposed, or one with a number, so that no value that is in a file already is written over. */
function chooseFreePath(finding: Finding, register: PathRegister, values: readonly StageValues[]): string {
  const { path, name } = finding
  let free = path
  for (let number = 2; ; number++) {
    const variable = free === path ? name : variableName(free.split('.'), '')
    if (register.isFree(free, variable) && findFileWithOther(variable, finding, values) === null) return free
    free = `${path}${number}`
  }
}

function readWish(path: string, register: PathRegister): string {
  const keys = path.split('.')
  const bad = keys.find((key) => !isPathKey(key))
  if (bad === undefined && register.isFree(path, variableName(keys, ''))) return path
  const taken = 'another setting or group has that name'
  const reason = bad === undefined ? taken : `${JSON.stringify(bad)} is no name that a program can read`
  const why = movingProblem('path-unusable', { asked: JSON.stringify(path.slice(0, 80)), reason })
  throw settingsError(why)
}

/** The layer file that gives a name another value. */
function findFileWithOther(name: string, finding: Finding, values: readonly StageValues[]): string | null {
  for (const { stage, documents } of listStages(finding, values)) {
    const [last] = [...documents].reverse().filter(([, document]) => document.get(name) !== undefined)
    if (last !== undefined && last[1].get(name)?.value !== findValue(finding, stage)) return last[0]
  }
  return null
}

/** The kind that was proposed, where it takes the values as they are written. */
function chooseFittingKind(finding: Finding): string {
  const kind = kindsByName().get(finding.kind)!
  const fits = listValues(finding).every((value) => {
    const converted = kind.convert(value, {})
    return !('failure' in converted) && String(converted.value) === value
  })
  return fits ? finding.kind : 'string'
}
