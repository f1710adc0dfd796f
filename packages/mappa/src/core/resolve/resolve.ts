import { convertText, failureProblem } from '../definition/convert.ts'
import { type Declaration, type Definition, inStage, type Values } from '../definition/definition.ts'
import type { Layer, Origin } from '../layers/layer.ts'
import { originLabel, rangeEnd } from '../layers/layer.ts'
import { type Candidate, type MergedLayers, mergeLayers } from '../layers/merge.ts'
import { defaultsLayer } from '../layers/sources.ts'
import { checkOptionNames, mustBeStage } from '../problems/option-names.ts'
import { detailOf, hasErrors, type Location, locate, type Problem, problem } from '../problems/problem.ts'
import { Reporter } from '../problems/reporter.ts'
import { displayValue } from '../secret/display.ts'
import { type Expander, makeExpander } from '../template/expand.ts'
import { closestMatch } from '../text/closest-match.ts'
import { placeholderOf } from '../text/placeholder.ts'
import { checkAge } from './age.ts'
import { checkConditions } from './conditions.ts'
import { reportFormerNames, valueInUse } from './in-use.ts'
import { nearInShared, nearLabel, nearNameProblem, nearNames } from './near-names.ts'
import { oddity } from './oddity.ts'
import { type ResolvedSetting, resolvedSetting } from './resolved-setting.ts'
import { buildValues } from './values.ts'
import { phrase, type WhereToPut, whereToPut } from './where.ts'

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
export interface Resolution<D extends Definition = Definition> {
  readonly stage: string
  /** The settings in the order of the definition. */
  readonly settings: readonly ResolvedSetting[]
  /** Everything that is wrong. */
  readonly problems: readonly Problem[]
  /** The layers, lowest first, the defaults included. */
  readonly layers: readonly Layer[]
  /** The typed, frozen values; `null` where an error keeps them from being complete. */
  readonly values: Values<D> | null
  /** The value of a candidate with its references filled in, and whether it may be shown. */
  readonly textOf: (name: string, candidate: Candidate) => { text: string | undefined; masked: boolean }
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
  mustBeStage(stage, definition.stages, 'the option stage')
  const declarations = definition.settings.map((each) => inStage(each, stage))
  const merged = mergeLayers([defaultsLayer(declarations), ...(options.layers ?? [])])
  const byName = new Map(declarations.map((each) => [each.name, each]))
  const nearSetting = closestMatch([...byName.keys()])
  for (const each of declarations) for (const former of each.formerly) byName.set(former, each)
  const expander = makeExpander(merged, (name) => byName.get(name), nearSetting)
  const reporter = new Reporter(
    merged.layers.flatMap((layer) => layer.problems.map((each) => withSetting(each, byName))),
  )
  const near = nearNames(merged.layers, byName, nearSetting, definition.prefix, reporter)
  const closest = (name: string) =>
    nearLabel(name, near) ?? nearInShared(name, merged.layers, (each) => byName.has(each))
  const putInto = whereToPut(stage, definition.layersFrom)
  const settings = declarations.map((each) => resolveOne(each, merged, expander, closest, putInto, reporter))
  for (const each of settings) checkOutside(each, options, reporter)
  checkConditions(settings, putInto, reporter)
  for (const each of expander.problems) reporter.report(each)
  for (const each of near) if (!expander.used.has(each.name)) reporter.report(nearNameProblem(each))
  if (!reporter.hasErrors) reportUnresolved(settings, reporter)
  const staged = reporter.problems.map((each) => locate(each, { stage }))
  return {
    stage,
    settings,
    problems: staged,
    layers: merged.layers,
    values: hasErrors(staged) ? null : (buildValues(settings, originTitles(merged)) as Values<D>),
    textOf(name, candidate) {
      const { text, secret } = expander.expand(name, candidate)
      const masked = byName.get(name)?.secret === true || secret !== null
      // Out of reach of loggers.
      return Object.defineProperty({ masked }, 'text', { get: () => text }) as {
        text: string | undefined
        masked: boolean
      }
    },
  }
}

function resolveOne(
  declaration: Declaration,
  merged: MergedLayers,
  expander: Expander,
  closest: (name: string) => string | null,
  putInto: WhereToPut,
  reporter: Reporter,
): ResolvedSetting {
  const { name, path, secret } = declaration
  const { name: said, candidate: winner } = valueInUse(declaration, merged) ?? { name, candidate: undefined }
  if (declaration.formerly.length > 0) reportFormerNames(declaration, said, merged, reporter)
  const candidates = () => merged.candidates(said)
  const unset = { declaration, value: undefined, text: undefined, masked: secret, candidates }
  if (winner === undefined) {
    if (!declaration.optional) {
      const put = putInto(declaration)
      const details = { name, description: phrase(declaration), put, near: closest(name) }
      reporter.report(problem('missing', details, { name, setting: path }))
    }
    return resolvedSetting({ ...unset, origin: null, valid: declaration.optional })
  }
  const { origin } = winner
  const expanded = expander.expand(said, winner)
  if (expanded.text === undefined) return resolvedSetting({ ...unset, origin, valid: false })
  const masked = secret || expanded.secret !== null
  const place = () => ({
    file: origin.file,
    layer: winner.layer.title,
    line: origin.line,
    column: origin.column,
    ...rangeEnd(winner),
    name,
    setting: path,
    codeFrame: masked ? null : winner.codeFrame(),
  })
  if (expanded.text === '' && !declaration.allowEmpty) {
    return emptyValue(declaration, candidates(), putInto, reporter, place())
  }
  if (expanded.secret !== null && !secret) {
    reporter.report(problem('holds-secret', { name, to: expanded.secret }, place()))
  }
  if (expanded.text === placeholderOf(name)) {
    reporter.report(problem('placeholder-left', { name }, place()))
    return resolvedSetting({ ...unset, origin, valid: false })
  }
  // A default is of its type already, and was checked with the definition.
  if (winner.layer.kind === 'defaults') {
    const { text } = expanded
    return resolvedSetting({ declaration, value: declaration.default, text, masked, valid: true, origin, candidates })
  }
  const { text } = expanded
  const { value, failures } = convertText(declaration, text)
  for (const failed of failures) reporter.report(failureProblem(failed, { name, text, secret: masked }, place()))
  const valid = failures.length === 0
  if (valid) reportOddity(declaration, text, masked, reporter, place)
  reportDeprecation(declaration, reporter, place)
  return resolvedSetting({ declaration, value, text, masked, valid, origin, candidates })
}

function reportOddity(
  declaration: Declaration,
  text: string,
  masked: boolean,
  reporter: Reporter,
  place: () => Location,
): void {
  const odd = oddity(declaration, text)
  if (odd === null) return
  const details = { name: declaration.name, shown: displayValue(text, { secret: masked }) }
  reporter.report(problem(odd, details, place()))
}

function reportDeprecation({ name, options }: Declaration, reporter: Reporter, place: () => Location): void {
  const { deprecated = false } = options
  if (deprecated === false) return
  const near = deprecated === true ? null : String(deprecated)
  reporter.report(problem('setting-deprecated', { name, near }, place()))
}

/** Checks what does not follow from the value alone: its age, and what it is the path of. */
function checkOutside(each: ResolvedSetting, options: ResolveOptions, reporter: Reporter): void {
  if (each.declaration.options.rotateEvery !== undefined) checkAge(each, options.today, reporter)
  if (each.declaration.options.mustExist === true) mustExist(each, options, reporter)
}

/** An empty text counts as missing, but never lets a lower file shine through in silence. */
function emptyValue(
  declaration: Declaration,
  candidates: readonly Candidate[],
  putInto: WhereToPut,
  reporter: Reporter,
  place: object,
): ResolvedSetting {
  const { name, optional } = declaration
  const winner = candidates[0]!
  const from = originLabel(winner.origin, winner.layer.title)
  const hidden = candidates.slice(1).find((each) => each.layer.kind !== 'defaults' && each.value !== '')
  const fallback = candidates.find(({ layer }) => layer.kind === 'defaults')
  const usable = fallback !== undefined || optional
  if (!usable) {
    reporter.report(
      problem('empty', { name, description: phrase(declaration), from, put: putInto(declaration) }, place),
    )
  }
  if (hidden !== undefined) {
    const details = { name, from, hidden: originLabel(hidden.origin, hidden.layer.title) }
    reporter.report(problem('empty-hides-value', details, place))
  }
  const value = fallback === undefined ? undefined : declaration.default
  return resolvedSetting({
    declaration,
    value,
    text: typeof fallback?.value === 'string' ? fallback.value : undefined,
    masked: declaration.secret,
    valid: usable,
    origin: fallback?.origin ?? (usable ? null : winner.origin),
    candidates: () => candidates,
  })
}

/** A path must lead somewhere, where its setting asks for it and somebody can tell. */
function mustExist(
  { declaration, text, valid, origin }: ResolvedSetting,
  { exists, root }: ResolveOptions,
  reporter: Reporter,
): void {
  if (!valid || text === undefined || exists === undefined || exists(text)) return
  const { name, path, secret } = declaration
  const { file = null, line = null, column = null } = origin ?? {}
  const details = { name, shown: displayValue(text, { secret }), root: root ?? 'the project' }
  reporter.report(problem('path-not-there', details, { file, line, column, name, setting: path }))
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
  const suspect = each.name === null ? detailOf(each, 'suspect') : null
  const name = each.name ?? (typeof suspect === 'string' && byName.has(suspect) ? suspect : null)
  const setting = name === null ? undefined : byName.get(name)
  if (setting === undefined) return each
  return locate(each, { name, setting: setting.path }, suspect === null ? {} : { near: name, name })
}

function originTitles({ layers }: MergedLayers): (origin: Origin) => string {
  return (origin) => originLabel(origin, layers.find((layer) => layer.id === origin.layer)?.title ?? origin.layer)
}
