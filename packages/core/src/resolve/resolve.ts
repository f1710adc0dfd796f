import { type Declaration, type Definition, resolveStage, type Values } from '../definition/definition.ts'
import { listAncestors, listLineage } from '../definition/stages.ts'
import { defaultsLayer } from '../layers/defaults.ts'
import type { Layer, Origin } from '../layers/layer.ts'
import { describeOriginLabel } from '../layers/layer.ts'
import { type Candidate, type MergedLayers, mergeLayers } from '../layers/merge.ts'
import { checkOptionNames, mustBeStage } from '../problems/option-names.ts'
import { getDetail, hasErrors, type Problem, problem, withLocation } from '../problems/problem.ts'
import { Reporter } from '../problems/reporter.ts'
import { containsSecret } from '../secret/contains-secret.ts'
import { displayValue } from '../secret/display.ts'
import { type Expander, makeExpander } from '../template/expand.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { checkDates } from './age.ts'
import { checkConditions } from './conditions.ts'
import { describeNear, findNearNames, findNearShared, reportNearName } from './near-names.ts'
import { isSuspect, listSecretTexts, resolveOne } from './resolve-one.ts'
import type { ResolvedSetting } from './resolved-setting.ts'
import { checkSharedRules } from './rules-between.ts'
import { buildValues } from './values.ts'
import { describeTarget } from './where.ts'

/** Options of {@link resolveSettings}. */
export interface ResolveOptions {
  /**
   * The stage to resolve.
   * @default the first of the definition
   */
  readonly stage?: string
  /**
   * The layers, lowest first; a higher one wins.
   * @default none: only the defaults of the definition
   */
  readonly layers?: readonly Layer[]
  /**
   * Says whether a file or directory is at a path, for settings with `mustExist`.
   * @default they are not checked
   */
  readonly exists?: (path: string) => boolean
  /**
   * The directory in which relative paths begin, for messages.
   * @default none
   */
  readonly root?: string
  /**
   * The day to compare ages with, as in RFC 3339: `'2026-11-23'`.
   * @default today, in UTC
   */
  readonly today?: string
}

const RESOLVE_OPTIONS = ['stage', 'layers', 'exists', 'root', 'today'] as const

/** Everything that is known about the settings of one stage. */
export interface Resolution<D extends Definition = Definition, V = Values<D>> {
  readonly stage: string
  /** The program whose settings they are; `null` for those of all. */
  readonly program: string | null
  /** The stages that it is like, whose layer files it has below its own, the nearest first. */
  readonly ancestors: readonly string[]
  /** The settings in the order of the definition. */
  readonly settings: readonly ResolvedSetting[]
  /** Everything that is wrong. */
  readonly problems: readonly Problem[]
  /** The layers, lowest first, the defaults included. */
  readonly layers: readonly Layer[]
  /** The typed, frozen values; `null` where an error keeps them from being complete. */
  readonly values: V | null
  /** The value of a candidate with its references filled in, and whether it may be shown. */
  readonly getText: (name: string, candidate: Candidate) => { text: string | undefined; masked: boolean }
  /** Says whether a text contains the value that any layer has for a secret. */
  readonly containsSecret: (text: string) => boolean
}

/**
 * Works out the value of every setting of a definition from layers. Reads no files and throws nothing; what is
 * wrong is in `problems`.
 *
 * @example
 * ```ts
 * const { values, problems } = resolveSettings(definition, {
 *   stage: 'production',
 *   layers: [documentLayer('.env', EnvDocument.from(text)), environmentLayer({ SERVER_PORT: '4100' })],
 * })
 * ```
 */
export function resolveSettings<D extends Definition>(definition: D, options: ResolveOptions = {}): Resolution<D> {
  checkOptionNames(options, RESOLVE_OPTIONS, 'resolveSettings')
  const stage = options.stage ?? definition.stages[0]!
  mustBeStage(stage, definition, 'the option stage')
  const declarations = definition.settings.map((each) => resolveStage(each, stage))
  // What other programs need can be referred to, is secret all the same, and is no misspelling.
  const elsewhere = definition.elsewhere.map((each) => resolveStage(each, stage))
  const all = [...declarations, ...elsewhere]
  const merged = mergeLayers([defaultsLayer(all), ...(options.layers ?? [])])
  const byName = new Map(all.map((each) => [each.name, each]))
  const nearSetting = makeClosestMatch([...byName.keys()])
  for (const each of all) for (const former of each.formerly) byName.set(former, each)
  const startExpanding = () => makeExpander(merged, (name) => byName.get(name), nearSetting)
  const expander = startExpanding()
  const reporter = new Reporter(
    merged.layers.flatMap((layer) => layer.problems.map((each) => withSetting(each, byName))),
  )
  const near = findNearNames(merged.layers, byName, nearSetting, definition.prefix, reporter)
  const findClosest = (name: string) =>
    describeNear(name, near) ?? findNearShared(name, merged.layers, (each) => byName.has(each))
  const putInto = describeTarget(stage, definition)
  // Most stages have no wrong value, so what it could contain is found out when there is one.
  let secrets: readonly string[] | undefined
  const isSecretInside = (text: string) => {
    secrets ??= [
      ...listSecretTexts(declarations, merged, expander),
      // What is wrong with the values of other programs is told to them.
      ...listSecretTexts(elsewhere, merged, startExpanding()),
    ]
    return containsSecret(text, secrets)
  }
  const tools = { merged, expander, closest: findClosest, putInto, reporter, isSecretInside }
  const settings = declarations.map((each) => resolveOne(each, tools))
  checkDates(settings, options.today, reporter)
  for (const each of settings) checkOutside(each, options, reporter)
  checkConditions(settings, putInto, reporter)
  checkSharedRules(definition.rules, {
    stage,
    lineage: listLineage(definition, stage),
    settings,
    describeOrigin: makeOriginTitle(merged),
    isSecretInside,
    reporter,
  })
  for (const each of expander.problems) reporter.report(each)
  for (const each of near) if (!expander.used.has(each.name)) reporter.report(reportNearName(each))
  if (!reporter.hasErrors) reportUnresolved(settings, reporter)
  const staged = reporter.problems.map((each) => withLocation(each, { stage }))
  return {
    stage,
    program: definition.program,
    ancestors: listAncestors(definition, stage),
    settings,
    problems: staged,
    layers: merged.layers,
    values: hasErrors(staged) ? null : (buildValues(settings, makeOriginTitle(merged)) as Values<D>),
    getText: makeTextReader(expander, byName, isSecretInside),
    containsSecret: isSecretInside,
  }
}

function makeTextReader(
  expander: Expander,
  byName: ReadonlyMap<string, Declaration>,
  isSecretInside: (text: string) => boolean,
): Resolution['getText'] {
  return (name, candidate) => {
    const { text, secret } = expander.expand(name, candidate)
    const declaration = byName.get(name)
    const isShown = declaration === undefined || text === undefined || !isSuspect(declaration, text)
    const masked = declaration?.secret === true || secret !== null || (!isShown && isSecretInside(text))
    // Out of reach of loggers.
    return Object.defineProperty({ masked }, 'text', { get: () => text }) as {
      text: string | undefined
      masked: boolean
    }
  }
}

/** Checks what does not follow from the value alone: what it is the path of. */
function checkOutside(each: ResolvedSetting, options: ResolveOptions, reporter: Reporter): void {
  const paths = listPaths(each)
  if (paths.length > 0) reportMissingPaths(each, paths, options, reporter)
}

/** What a value names that has to exist: its text, or items of it, each with what messages call it. */
function listPaths({
  declaration,
  text,
  value,
  valid,
}: ResolvedSetting): readonly { readonly name: string; readonly path: string }[] {
  const { kind, options, name } = declaration
  if (!valid || text === undefined) return []
  if (options.mustExist === true) return [{ name, path: text }]
  if (kind.items?.(options).options.mustExist !== true) return []
  return (value as readonly string[]).map((path, at) => ({ name: `Item ${at + 1} of ${name}`, path }))
}

/** A path must lead somewhere, where its setting asks for it and somebody can tell. */
function reportMissingPaths(
  { declaration, origin, masked }: ResolvedSetting,
  paths: ReturnType<typeof listPaths>,
  { exists, root = 'the project' }: ResolveOptions,
  reporter: Reporter,
): void {
  if (exists === undefined) return
  const { file = null, line = null, column = null } = origin ?? {}
  const place = { file, line, column, name: declaration.name, setting: declaration.path }
  for (const { name, path } of paths) {
    if (exists(path)) continue
    reporter.report(problem('path-not-there', { name, shown: displayValue(path, { secret: masked }), root }, place))
  }
}

/** The last line of defence: whatever was overlooked before, no required setting is `undefined`. */
function reportUnresolved(settings: readonly ResolvedSetting[], reporter: Reporter): void {
  for (const { declaration, valid, value } of settings) {
    const { name, path, optional } = declaration
    if (valid && (value !== undefined || optional)) continue
    reporter.report(problem('value-unresolved', { name }, { name, setting: path }))
  }
}

/**
 * A problem of a text, told which setting it is about. A line that is not understood may be a piece of a secret, so what it
 * seems to name is told only where it is a setting; the same goes for what stands behind such a line.
 */
function withSetting(each: Problem, byName: ReadonlyMap<string, Declaration>): Problem {
  const suspect = each.name === null ? getDetail(each, 'suspect') : null
  const name = each.name ?? (typeof suspect === 'string' && byName.has(suspect) ? suspect : null)
  const setting = name === null ? undefined : byName.get(name)
  if (setting === undefined) return each
  return withLocation(each, { name, setting: setting.path }, suspect === null ? {} : { near: name, name })
}

function makeOriginTitle({ layers }: MergedLayers): (origin: Origin) => string {
  return (origin) =>
    describeOriginLabel(origin, layers.find((layer) => layer.id === origin.layer)?.title ?? origin.layer)
}
