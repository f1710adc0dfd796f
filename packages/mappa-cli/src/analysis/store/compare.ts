import { acceptText } from '@mappa/core/definition/accept'
import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { storeCommandProblem } from '@mappa/core/problems/catalogue/store-commands'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { isSuspect } from '@mappa/core/resolve/resolve-one'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { containsSecret } from '@mappa/core/secret/contains-secret'
import { displayValue } from '@mappa/core/secret/display'
import type { Store, StoreEntry, StoreState } from '@mappa/core/store/store'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { toMeaning } from '@mappa/core/text/meaning'
import { listFaults } from '../set/write-setting.ts'
import { isHeld } from './held.ts'
import { readFileSettings, readFileText } from './local.ts'

/** How a value in a store is to the one that the files of the project have. */
export type Relation =
  | 'same'
  | 'different'
  /** Here, in a file that others do not have, or nowhere; and not there. */
  | 'missing'
  /** Here, in a file that goes along with the program; and not there. */
  | 'here'
  /** There, and not here. */
  | 'there'
  /** Neither here nor there; the default of the definition holds, or nothing. */
  | 'unset'
  /** The definition does not declare it. */
  | 'undeclared'

/** One name, here and there. Shows no secret. */
export interface StoreRow {
  readonly name: string
  readonly relation: Relation
  readonly secret: boolean
  /** The value here, and the one there, as a person may see them; `null` where there is none. */
  readonly here: string | null
  readonly there: string | null
  /** Which change of the store set it; `null` where that is not known. */
  readonly revision: string | null
}

/** What a store holds for a stage, beside what the definition and the files say. */
export interface StoreComparison {
  readonly store: string
  readonly stage: string
  readonly revision: string
  readonly rows: readonly StoreRow[]
  readonly problems: readonly Problem[]
}

/** What is compared. */
export interface StoreQuestion {
  readonly root: string
  readonly definition: Definition
  readonly store: Store
  readonly state: StoreState
  /** What the store holds for the other stages, as far as that could be read; `null` where nobody wants to know. */
  readonly others: readonly StoreState[] | null
}

/** Compares what a store holds for a stage with what the definition says, and with the values in the files. */
export function compareStore({ root, definition, store, state, others }: StoreQuestion): StoreComparison {
  const { stage, revision, entries } = state
  const title = `${store.describe()}/${stage}`
  const here = readFileSettings(root, definition, stage)
  const elsewhere = definition.stages
    .filter((each) => each !== stage)
    .map((each) => ({
      stage: each,
      settings: readFileSettings(root, definition, each),
      state: others?.find((one) => one.stage === each),
    }))
  const rows: StoreRow[] = []
  const problems: Problem[] = []
  const secrets = [...listSecretTexts(here), ...here.flatMap(({ declaration }) => listSecretsThere(declaration, state))]
  const isInside = (text: string) => containsSecret(text, secrets)
  for (const [index, setting] of here.entries()) {
    const { declaration } = setting
    const entry = toEntry(declaration, state)
    const row = toRow(setting, entry, state, store.isWhole === true, isInside)
    rows.push(row)
    if (row.relation === 'missing') problems.push(...reportMissing(setting, title, stage))
    if (entry === undefined) continue
    problems.push(...checkStoreRules(declaration, entry, stage, title, isInside))
    const known = elsewhere.flatMap((each) => findValuesElsewhere(each, index))
    problems.push(...reportShared(declaration, entry, state, known, title))
  }
  const declared = new Set(definition.settings.flatMap(({ name, formerly }) => [name, ...formerly]))
  const missing = rows.filter(({ there }) => there === null).map(({ name }) => name)
  const near = makeClosestMatch(missing.length > 0 ? missing : [...declared])
  for (const [name, entry] of entries) {
    if (declared.has(name)) continue
    rows.push({
      name,
      relation: 'undeclared',
      secret: true,
      here: null,
      there: '(not shown)',
      revision: entry.revision,
    })
    problems.push(
      storeCommandProblem('store-undeclared', { store: title, name, near: near(name) }, { name, stage, layer: title }),
    )
  }
  const unread = others === null ? [] : elsewhere.filter((each) => each.state === undefined)
  for (const { stage: other } of unread)
    problems.push(
      storeCommandProblem('store-stage-unread', { store: store.describe(), other }, { stage, layer: title }),
    )
  return { store: store.describe(), stage, revision, rows, problems }
}

/** What a store has for a setting; a former name counts as long as programs read it. */
function toEntry({ name, formerly }: Declaration, { entries }: StoreState): StoreEntry | undefined {
  const held = [name, ...formerly].find((each) => entries.has(each))
  return held === undefined ? undefined : entries.get(held)
}

/** What files have for secrets, also where another file overrides it. */
function listSecretTexts(settings: readonly ResolvedSetting[]): string[] {
  return settings
    .filter(({ declaration }) => declaration.secret)
    .flatMap(({ text = '', candidates }) => [text, ...candidates().flatMap(({ value }) => value)])
    .filter((each) => typeof each === 'string')
}

function listSecretsThere(declaration: Declaration, state: StoreState): string[] {
  return declaration.secret ? [toEntry(declaration, state)?.value ?? ''] : []
}

function toRow(
  setting: ResolvedSetting,
  entry: StoreEntry | undefined,
  state: StoreState,
  isWhole: boolean,
  isSecretInside: (text: string) => boolean,
): StoreRow {
  const { declaration } = setting
  const { name, secret } = declaration
  const local = readFileText(setting)
  const formatShown = (text: string) => {
    const isHidden = secret || (isSuspect(declaration, text) && isSecretInside(text))
    return displayValue(text, { secret: isHidden, widest: 40 })
  }
  return {
    name,
    secret,
    relation: entry === undefined ? describeAbsence(setting, isWhole) : getRelation(declaration, local, entry, state),
    here: local === null ? null : formatShown(local),
    there: entry === undefined ? null : thereShown(entry, formatShown),
    revision: entry?.revision ?? null,
  }
}

function thereShown({ value }: StoreEntry, shown: (text: string) => string): string {
  return value === null ? '(kept by the store)' : shown(value)
}

function getRelation(declaration: Declaration, local: string | null, entry: StoreEntry, state: StoreState): Relation {
  if (local === null) return 'there'
  if (isHeld(entry, local, state)) return 'same'
  return entry.value !== null && meansTheSame(declaration, local, entry.value) ? 'same' : 'different'
}

/** How a setting is that the store does not have: files of one machine do not go along with a program. */
function describeAbsence(setting: ResolvedSetting, isWhole: boolean): Relation {
  const { declaration, origin } = setting
  const { optional, default: value } = declaration
  if (readFileText(setting) === null) return optional || value !== undefined ? 'unset' : 'missing'
  return isWhole || isLocalFile(origin?.layer ?? '') ? 'missing' : 'here'
}

/** True for texts of one value: 1kB and 1000 are the same size. */
function meansTheSame(declaration: Declaration, a: string, b: string): boolean {
  const [one, other] = [a, b].map((text) => acceptText(declaration, text))
  const isGood = one!.failures.length === 0 && other!.failures.length === 0
  return isGood && toMeaning(one!.value) === toMeaning(other!.value)
}

function reportMissing(setting: ResolvedSetting, store: string, stage: string): readonly Problem[] {
  const { name, path, description, optional, default: value } = setting.declaration
  if (optional || value !== undefined) return []
  const near = readFileText(setting) === null ? null : name
  const details = { name, description, store, stagename: stage, near }
  return [storeCommandProblem('store-missing', details, { name, setting: path, stage, layer: store })]
}

/** The rules of the stage that a value there breaks, where the store tells it. */
function checkStoreRules(
  declaration: Declaration,
  { value }: StoreEntry,
  stage: string,
  store: string,
  isSecretInside: (text: string) => boolean,
): readonly Problem[] {
  if (value === null) return []
  return listFaults(declaration, value, { stage, local: false, containsSecret: isSecretInside }).map((each) =>
    withLocation(each, { layer: store }),
  )
}

/** The value of another stage, in its files or in the store. */
interface OtherValue {
  readonly stage: string
  readonly text: string | null
  readonly entry: StoreEntry | undefined
}

function findValuesElsewhere(
  { stage, settings, state }: { stage: string; settings: readonly ResolvedSetting[]; state: StoreState | undefined },
  index: number,
): readonly OtherValue[] {
  const setting = settings[index]!
  return [{ stage, text: readFileText(setting), entry: state?.entries.get(setting.declaration.name) }]
}

/** Says where a value there is that of another stage, and stages must not share it or probably should not. */
function reportShared(
  declaration: Declaration,
  entry: StoreEntry,
  state: StoreState,
  known: readonly OtherValue[],
  store: string,
): readonly Problem[] {
  const { name, path, secret, options } = declaration
  const mustDiffer = options.distinctAcrossStages === true
  if (!mustDiffer && !secret) return []
  const same = known.filter(
    ({ text, entry: other }) =>
      (text !== null && isHeld(entry, text, state)) || (other?.value != null && isHeld(entry, other.value, state)),
  )
  if (same.length === 0) return []
  const details = { name, store, other: same.map(({ stage }) => stage) }
  const place = { name, setting: path, stage: state.stage, layer: store }
  return [
    mustDiffer
      ? storeCommandProblem('store-value-of-stage', { ...details, stagename: state.stage }, place)
      : storeCommandProblem('store-value-of-stage-likely', details, place),
  ]
}
