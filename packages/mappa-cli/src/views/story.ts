import { type Declaration, resolveStage } from '@mappa/core/definition/definition'
import { describeOriginLabel, type Layer } from '@mappa/core/layers/layer'
import type { Candidate } from '@mappa/core/layers/merge'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { displayValue } from '@mappa/core/secret/display'
import { mask } from '@mappa/core/secret/secret'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { getState } from '../analysis/compare/stages.ts'
import type { CellState } from '../analysis/compare/table.ts'
import { type AgeView, toAge } from './age.ts'
import { type ProblemView, problemView } from './problem.ts'
import { listReferences, type ReferenceView } from './references.ts'
import { listRules, type RuleView } from './rules.ts'

/** Everything about one setting. */
export interface Story {
  readonly path: string
  readonly name: string
  readonly description: string
  readonly kind: string
  readonly secret: boolean
  readonly public: boolean
  /** Names that it had before. */
  readonly formerly: readonly string[]
  /** The setting in each stage. */
  readonly stages: readonly StageStory[]
  /** Where the code reads it; `null` where nobody has looked. */
  readonly readers: ReadersView | null
}

/** Where the code reads a setting, as far as it was read. */
export interface ReadersView {
  readonly places: readonly ReaderView[]
  /** Sources that were not read: too large, or closed to this user. */
  readonly notRead: readonly string[]
}

/** A place in the code that reads a setting. */
export interface ReaderView {
  readonly file: string
  readonly line: number
  readonly column: number
  /** What stands there: `settings.dome.key`, `DOME_KEY`. */
  readonly text: string
}

/** One setting in one stage. */
export interface StageStory {
  readonly stage: string
  readonly state: CellState
  /** Each layer, lowest first. */
  readonly layers: readonly LayerStory[]
  /** Why the value is what it is, in one sentence. */
  readonly verdict: string
  /** What the value in use refers to, in the order in which it does. */
  readonly references: readonly ReferenceView[]
  /** What the text was turned into; `null` where it is taken as it stands, or can't be shown. */
  readonly conversion: { readonly text: string; readonly value: string } | null
  readonly rules: readonly RuleView[]
  readonly problems: readonly ProblemView[]
  readonly age: AgeView | null
}

/** What one layer says about a setting. */
export interface LayerStory {
  readonly id: string
  /** What a person calls it. */
  readonly title: string
  /** `in use` and `overridden` are values; the other three are the reasons for which there is none. */
  readonly state: 'in use' | 'overridden' | 'not set here' | 'no such file' | "can't be read"
  /** What a person calls the place: `.env.production:3`; the title where it sets nothing. */
  readonly place: string
  readonly file: string | null
  readonly line: number | null
  /** The value, masked if it is a secret or holds one; `null` where there is none. */
  readonly shown: string | null
  /** The day on which the value was set, where its file says so. */
  readonly setOn: string | null
}

/** How a story is told. */
export interface StoryOptions {
  /**
   * The day to compare ages with, as `2026-11-26`.
   * @default today, in UTC
   */
  readonly today?: string
  /**
   * True only if a person asked to see secrets.
   * @default false
   */
  readonly reveal?: boolean
  /**
   * Changes the path of a file into the one to show.
   * @default it is shown from the directory of the project
   */
  readonly fileLabel?: (file: string) => string
}

/**
 * Tells the story of one setting.
 *
 * @param path the path of the setting in code, such as `dome.key`
 * @param stages the stages, resolved and checked together
 * @param readers where the code reads it; `null` where nobody has looked
 * @returns plain data, without any secret unless that was asked for; `null` where the definition has no such setting
 */
export function explainSetting(
  path: string,
  stages: readonly Resolution[],
  readers: ReadersView | null,
  options: StoryOptions = {},
): Story | null {
  const index = (stages[0]?.settings ?? []).findIndex(({ declaration }) => declaration.path === path)
  if (index < 0) return null
  const { declaration } = stages[0]!.settings[index]!
  const { name, description, kind, secret, formerly } = declaration
  return {
    path,
    name,
    description,
    kind: kind.describe(declaration.options),
    secret,
    public: declaration.public,
    formerly,
    stages: stages.map((stage) => stageStory(declaration, stage.settings[index]!, stage, options)),
    readers,
  }
}

/** One setting in one stage, with every layer. */
export function stageStory(
  declaration: Declaration,
  setting: ResolvedSetting,
  resolution: Resolution,
  options: StoryOptions = {},
): StageStory {
  const { stage, layers, problems } = resolution
  const candidates = setting.candidates()
  const [winner] = candidates
  const own = problems.filter((each) => each.setting === declaration.path)
  return {
    stage,
    state: getState(setting, resolution),
    layers: layers.map((layer) => layerStory(layer, candidates, setting, resolution, options)),
    verdict: verdict(setting, makePlaceLabel(options), isEmptyValue(setting, resolution)),
    references: winner === undefined ? [] : listReferences(winner.value, resolution),
    conversion: describeConversion(setting),
    rules: listRules(resolveStage(declaration, stage), setting, own),
    problems: own.map(problemView),
    age: toAge(declaration, winner, options.today ?? new Date().toISOString().slice(0, 10)),
  }
}

function layerStory(
  layer: Layer,
  candidates: readonly Candidate[],
  setting: ResolvedSetting,
  { getText: textOf }: Resolution,
  options: StoryOptions,
): LayerStory {
  const candidate = candidates.find((each) => each.layer === layer)
  const { id, title } = layer
  if (candidate === undefined) {
    const place = layer.kind === 'file' ? (options.fileLabel?.(title) ?? title) : title
    return { id, title, state: describeAbsence(layer), place, file: null, line: null, shown: null, setOn: null }
  }
  const { text, masked } = textOf(setting.declaration.name, candidate)
  const { file, line } = candidate.origin
  return {
    id,
    title,
    state: candidate === candidates[0] ? 'in use' : 'overridden',
    place: makePlaceLabel(options)(candidate),
    file,
    line,
    shown: text === undefined ? null : showText(text, masked, candidate === candidates[0] ? setting : null, options),
    setOn: candidate.setOn(),
  }
}

/**
 * A value as a person may see it. Of bytes that are in use, how many there are is told, not how many characters they are written with.
 *
 * @param used the setting, where the value is the one in use
 */
function showText(
  text: string,
  isMasked: boolean,
  used: ResolvedSetting | null,
  { reveal = false }: StoryOptions,
): string {
  if (isMasked && !reveal && used?.value instanceof Uint8Array) return mask(used.value)
  return displayValue(text, { secret: isMasked, reveal })
}

/** What a person calls the place of a value. */
function makePlaceLabel({ fileLabel = (file) => file }: StoryOptions): (candidate: Candidate) => string {
  return ({ origin, layer }) =>
    escapeInvisible(
      describeOriginLabel({ ...origin, file: origin.file === null ? null : fileLabel(origin.file) }, layer.title),
    )
}

function describeAbsence({ state }: Layer): LayerStory['state'] {
  if (state === 'absent') return 'no such file'
  return state === 'unreadable' ? "can't be read" : 'not set here'
}

/** True for a value that counts as missing: an empty text, or one of references to nothing but empty texts. */
function isEmptyValue({ candidates, declaration }: ResolvedSetting, { getText }: Resolution): boolean {
  const [winner] = candidates()
  if (winner === undefined || declaration.allowEmpty || winner.typed !== undefined) return false
  return winner.layer.kind !== 'defaults' && getText(declaration.name, winner).text === ''
}

/** Why the value is what it is. */
function verdict(
  { candidates, valid }: ResolvedSetting,
  placeOf: (candidate: Candidate) => string,
  isEmpty: boolean,
): string {
  const all = candidates()
  const [winner, ...beaten] = all
  if (winner === undefined) return valid ? 'No layer sets it; it is optional.' : 'No layer sets it.'
  const place = winner.layer.kind === 'defaults' ? 'The default' : placeOf(winner)
  if (isEmpty) return `${place} sets it to an empty value, which counts as missing.`
  if (beaten.length === 0) return `${place} wins: no other layer sets it.`
  return `${place} wins: it is the highest of the ${all.length} layers that set it.`
}

function describeConversion({
  declaration,
  masked,
  origin,
  text,
  valid,
  value,
}: ResolvedSetting): StageStory['conversion'] {
  if (masked || !valid || text === undefined || typeof value === 'string' || origin?.layer === 'defaults') return null
  const converted = declaration.kind.toText(value, declaration.options)
  if (converted === text) return null
  return { text: displayValue(text, { secret: false }), value: displayValue(converted, { secret: false, bare: true }) }
}
