import { convertText, failureProblem } from '../definition/convert.ts'
import { type Declaration, type Definition, inStage, type Values } from '../definition/definition.ts'
import type { Layer, Origin } from '../layers/layer.ts'
import { originLabel } from '../layers/layer.ts'
import { type Candidate, type MergedLayers, mergeLayers } from '../layers/merge.ts'
import { defaultsLayer } from '../layers/sources.ts'
import { hasErrors, type Problem, problem } from '../problems/problem.ts'
import { displayValue } from '../secret/display.ts'
import { dayAfter } from '../text/iso-duration.ts'
import { nearestOf } from '../text/near.ts'
import { checkConditions } from './conditions.ts'
import { type Expander, makeExpander } from './expand.ts'
import { type NearName, nearNames } from './near-names.ts'
import { placeholderOf } from './placeholder.ts'
import type { ResolvedSetting } from './resolved-setting.ts'
import { buildValues } from './values.ts'
import { phrase, whereToPut } from './where.ts'

/** Options of {@link resolveSettings}. */
export interface ResolveOptions {
  /** The stage; the first of the definition if left out. */
  readonly stage?: string
  /** The layers above the defaults, lowest first. */
  readonly layers?: readonly Layer[]
  /** Tells whether there is a file or folder of a path, for settings that ask for it; they are not asked if left out. */
  readonly exists?: (path: string) => boolean
  /** The folder in which relative paths begin, for messages. */
  readonly root?: string
  /** The day to hold ages against, as RFC 3339 writes it (`2026-11-23`); today, in UTC, if left out. */
  readonly today?: string
}

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
  const stage = options.stage ?? definition.stages[0]!
  const declarations = definition.settings.map((each) => inStage(each, stage))
  const merged = mergeLayers([defaultsLayer(declarations), ...(options.layers ?? [])])
  const byName = new Map(declarations.map((each) => [each.name, each]))
  const nearSetting = nearestOf([...byName.keys()])
  for (const each of declarations) for (const former of each.formerly) byName.set(former, each)
  const expander = makeExpander(merged, (name) => byName.get(name), nearSetting)
  const near = nearNames(merged.layers, byName, nearSetting)
  const problems: Problem[] = merged.layers.flatMap((layer) => layer.problems.map((each) => withSetting(each, byName)))
  const settings = declarations.map((each) => resolveOne(each, merged, expander, near, stage, problems))
  for (const each of settings) {
    if (each.declaration.options.rotate !== undefined) remindOfAge(each, options.today, problems)
    if (each.declaration.options.mustExist === true) mustExist(each, options, problems)
  }
  checkConditions(settings, stage, problems)
  for (const each of expander.problems) problems.push(each)
  for (const each of near) if (!expander.used.has(each.name)) problems.push(misspelt(each))
  const staged = problems.map((each) => ({ ...each, stage }))
  return {
    stage,
    settings,
    problems: staged,
    layers: merged.layers,
    values: hasErrors(staged) ? null : (buildValues(settings, originTitles(merged)) as Values<D>),
    textOf(name, candidate) {
      const { text, secret } = expander.expand(name, candidate)
      return { text, masked: byName.get(name)?.secret === true || secret !== null }
    },
  }
}

function resolveOne(
  declaration: Declaration,
  merged: MergedLayers,
  expander: Expander,
  near: readonly NearName[],
  stage: string,
  problems: Problem[],
): ResolvedSetting {
  const { name, path, secret } = declaration
  const said = declaration.formerly.length === 0 ? name : nameInUse(declaration, merged, problems)
  const candidates = () => merged.candidates(said)
  const winner = merged.winner(said)
  const unset = { declaration, value: undefined, text: undefined, masked: secret, candidates }
  if (winner === undefined) {
    if (!declaration.optional) {
      const details = {
        name,
        description: phrase(declaration),
        put: whereToPut(declaration, stage),
        near: nearLabel(name, near),
      }
      problems.push(problem('missing', details, { name, setting: path }))
    }
    return { ...unset, origin: null, valid: declaration.optional }
  }
  const { origin } = winner
  const expanded = expander.expand(said, winner)
  if (expanded.text === undefined) return { ...unset, origin, valid: false }
  const masked = secret || expanded.secret !== null
  const place = () => ({
    file: origin.file,
    layer: winner.layer.title,
    line: origin.line,
    column: origin.column,
    name,
    setting: path,
    excerpt: masked ? null : winner.excerpt(),
  })
  if (expanded.text === '' && !declaration.allowEmpty) {
    return emptyValue(declaration, candidates(), stage, problems, place())
  }
  if (expanded.secret !== null && !secret) {
    problems.push(problem('holds-secret', { name, to: expanded.secret }, place()))
  }
  if (expanded.text === placeholderOf(name)) {
    problems.push(problem('placeholder-left', { name }, place()))
    return { ...unset, origin, valid: false }
  }
  // A default is of its type already, and was checked with the definition.
  if (winner.rank === 0) {
    return { declaration, value: declaration.default, text: expanded.text, masked, valid: true, origin, candidates }
  }
  const { text } = expanded
  const { value, failures } = convertText(declaration, text)
  for (const failed of failures) problems.push(failureProblem(failed, { name, text, secret: masked }, place()))
  const odd = failures.length > 0 ? null : oddity(declaration, text)
  if (odd !== null) problems.push(problem(odd, { name, shown: displayValue(text, { secret: masked }) }, place()))
  const { deprecated } = declaration.options
  if (deprecated !== undefined && deprecated !== false) {
    problems.push(
      problem('setting-deprecated', { name, near: deprecated === true ? null : String(deprecated) }, place()),
    )
  }
  return { declaration, value, text, masked, valid: failures.length === 0, origin, candidates }
}

/** Reminds of a value that is older than its setting wants. A value that stands in no file has no known age. */
function remindOfAge(
  { declaration, origin, candidates }: ResolvedSetting,
  today = new Date().toISOString().slice(0, 10),
  problems: Problem[],
): void {
  const { name, path, options } = declaration
  const [winner] = candidates()
  if (winner === undefined || origin === null || origin.file === null) return
  const { file, line, column } = origin
  const place = { file, line, column, name, setting: path }
  const rotate = options.rotate as string
  const day = winner.setOn()
  const due = day === null ? null : dayAfter(day, rotate)
  if (day === null || due === null) problems.push(problem('rotation-unknown', { name, rotate, today }, place))
  else if (due < today) problems.push(problem('rotation-due', { name, day, due }, place))
}

/** An empty text counts as missing, but never lets a lower file shine through in silence. */
function emptyValue(
  declaration: Declaration,
  candidates: readonly Candidate[],
  stage: string,
  problems: Problem[],
  place: object,
): ResolvedSetting {
  const { name, optional } = declaration
  const winner = candidates[0]!
  const from = originLabel(winner.origin, winner.layer.title)
  const hidden = candidates.slice(1).find((each) => each.rank > 0 && each.value !== '')
  const fallback = candidates.find((each) => each.rank === 0)
  const usable = fallback !== undefined || optional
  if (!usable) {
    problems.push(
      problem('empty', { name, description: phrase(declaration), from, put: whereToPut(declaration, stage) }, place),
    )
  }
  if (hidden !== undefined) {
    const details = { name, from, hidden: originLabel(hidden.origin, hidden.layer.title) }
    problems.push(problem('empty-hides-value', details, place))
  }
  const value = fallback === undefined ? undefined : declaration.default
  return {
    declaration,
    value,
    text: typeof fallback?.value === 'string' ? fallback.value : undefined,
    masked: declaration.secret,
    valid: usable,
    origin: fallback?.origin ?? (usable ? null : winner.origin),
    candidates: () => candidates,
  }
}

/** The name under which a setting has its value: its own, or one that it had before. */
function nameInUse({ name, path, formerly }: Declaration, merged: MergedLayers, problems: Problem[]): string {
  const own = merged.winner(name)
  for (const former of formerly) {
    const old = merged.winner(former)
    if (old === undefined) continue
    const { file, line } = old.origin
    const place = { file, layer: old.layer.title, line, column: old.nameColumn, name: former, setting: path }
    const used = own === undefined || own.rank === 0
    problems.push(problem(used ? 'name-former' : 'name-former-unused', { former, name }, place))
    if (used) return former
  }
  return name
}

/** What is odd about a value that is allowed, and probably a slip. */
function oddity(
  { kind, options }: Declaration,
  text: string,
): 'value-is-word' | 'value-in-quotes' | 'value-has-blanks' | null {
  // A rule of the definition has the last word.
  if (kind.schema.type !== 'string' || options.pattern !== undefined || options.enum !== undefined) return null
  if (text.length <= 9 && WORDS_FOR_NOTHING.has(text)) return 'value-is-word'
  const [first, last] = [text.charCodeAt(0), text.charCodeAt(text.length - 1)]
  if (first === last && text.length > 1 && (first === 34 || first === 39 || first === 96)) return 'value-in-quotes'
  return kind.name !== 'pem' && (isBlank(first) || isBlank(last)) ? 'value-has-blanks' : null
}

/** What programs write where they have no value. */
const WORDS_FOR_NOTHING = new Set(['null', 'undefined', 'None', 'nil', 'NaN'])

const isBlank = (character: number) => character === 32 || (character >= 9 && character <= 13) || character === 160

/** A path must lead somewhere, where its setting asks for it and somebody can tell. */
function mustExist(
  { declaration, text, valid, origin }: ResolvedSetting,
  { exists, root }: ResolveOptions,
  problems: Problem[],
): void {
  if (!valid || text === undefined || exists === undefined || exists(text)) return
  const { name, path, secret } = declaration
  const { file = null, line = null, column = null } = origin ?? {}
  const details = { name, shown: displayValue(text, { secret }), root: root ?? 'the project' }
  problems.push(problem('path-not-there', details, { file, line, column, name, setting: path }))
}

/** A name in the layer files that probably is a misspelling of a missing one, and where it stands. */
function nearLabel(name: string, near: readonly NearName[]): string | null {
  const found = near.find((each) => each.meant.name === name)
  return found === undefined ? null : `${found.name} in ${originLabel(found.origin, found.origin.layer)}`
}

function misspelt({ name, origin, meant }: NearName): Problem {
  const { file, line, column } = origin
  return problem('name-near', { name, meant: meant.name }, { file, line, column, name, setting: meant.path })
}

/** A problem of a text, told which setting it is about. */
function withSetting(each: Problem, byName: ReadonlyMap<string, Declaration>): Problem {
  const setting = each.name === null ? undefined : byName.get(each.name)
  return setting === undefined ? each : { ...each, setting: setting.path }
}

function originTitles({ layers }: MergedLayers): (origin: Origin) => string {
  return (origin) => originLabel(origin, layers.find((layer) => layer.id === origin.layer)?.title ?? origin.layer)
}
