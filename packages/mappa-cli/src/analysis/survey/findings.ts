import { displayValue } from '@mappa/core/secret/display'
import type { SourceLiteral } from '@mappa/source/source'
import { LOGS_IN } from './callees.ts'
import { type Classification, classify, withoutScheme } from './classify.ts'
import { nameOwner } from './companions.ts'
import { PathRegister, propose } from './propose.ts'
import { type ClassifiedLiteral, type ValueByStage, withoutChoices } from './stage-values.ts'

/** A value that should be a setting, with every place in which it stands. */
export interface Finding {
  /** To name it by, from 1. */
  readonly number: number
  readonly places: readonly SourceLiteral[]
  /** The path proposed for it in the definition. */
  readonly path: string
  /** The variable name that follows, or the one that the code reads already. */
  readonly name: string
  /** The path of a setting that the definition has under this name already, and which is probably meant. */
  readonly like: string | null
  readonly kind: Classification['kind']
  readonly secret: boolean
  /** How sure it is that this should be a setting, from 0 to 1. */
  readonly confidence: number
  /** Why it was detected. */
  readonly why: string
  /** The value as a person may see it. */
  readonly masked: string
  /** What the value is written as where it was found first. */
  readonly form: 'text' | 'number'
  /** The value itself; where each stage has its own, that of the stages that the code does not name. Never print it. */
  readonly value: string
  /** The value for each stage, where a conditional chooses among them; `null` where there is one for all. Never print them. */
  readonly stageValues: ValueByStage | null
}

/** The value that a finding has in a stage. */
export function findValue({ value, stageValues }: Finding, stage: string): string {
  return stageValues?.get(stage) ?? value
}

/** All values of a finding, each once. */
export function listValues({ value, stageValues }: Finding): readonly string[] {
  return [...new Set([value, ...(stageValues?.values() ?? [])])]
}

/**
 * Puts together what should be settings: the same value in several places is one finding, the surest first.
 *
 * @param literals of all sources
 * @param settings those that the definition has already
 * @param stages those of the project
 */
export function listFindings(
  literals: readonly SourceLiteral[],
  settings: readonly { readonly path: string; readonly name: string }[],
  stages: readonly string[],
): readonly Finding[] {
  const byValue = new Map<string, ClassifiedLiteral[]>()
  const { alone, chosen } = withoutChoices(literals, stages)
  for (const literal of alone) {
    const classification = classify(literal)
    if (classification === null) continue
    const value = findSettingPart(literal, classification)
    const key =
      literal.beside === undefined
        ? `${literal.form === 'number'} ${value}`
        : `${literal.beside} ${nameOwner(literal)} ${value}`
    const same = byValue.get(key)
    if (same === undefined) byValue.set(key, [{ literal, classification, value }])
    else same.push({ literal, classification, value })
  }
  joinAddresses(byValue)
  joinSecrets(byValue)
  for (const { key, ...each } of chosen) byValue.set(key, [...(byValue.get(key) ?? []), each])
  const used = new PathRegister(settings)
  // The surest first, but one that is no more than the value before one that holds it among other text.
  const isWhole = ({ literal, value }: ClassifiedLiteral) => (literal.value === value ? 1 : 0)
  const sorted = [...byValue.values()].map((group) =>
    [...group].sort((a, b) => isWhole(b) - isWhole(a) || b.classification.confidence - a.classification.confidence),
  )
  sorted.sort((a, b) => b[0]!.classification.confidence - a[0]!.classification.confidence)
  return sorted.map((group, index) => {
    const { literal, classification, value, stageValues = null } = group[0]!
    const named = group.find((each) => each.literal.variable !== null)?.literal ?? literal
    // What is a secret in one place is one in all.
    const secret = group.some((each) => each.classification.secret)
    const names = classification.part === undefined ? named.names : [...named.names, classification.part.name]
    const { path, name, like } = propose({ ...named, names }, nameByCall(classification, named, secret), used)
    used.add(path, name)
    const form = literal.form === 'number' ? 'number' : 'text'
    return {
      number: index + 1,
      places: group.map((each) => each.literal).sort(byPlace),
      path,
      name,
      like,
      kind: classification.kind,
      secret,
      confidence: classification.confidence,
      why: classification.why,
      masked: maskValue(value, stageValues, { secret, widest: 60, bare: form === 'number' }),
      form,
      value,
      stageValues,
    }
  })
}

/** A value as a person may see it, or those of the stages, with what the most of them have at the end. */
function maskValue(value: string, stageValues: ValueByStage | null, how: Parameters<typeof displayValue>[1]): string {
  if (stageValues === null) return displayValue(value, how)
  const named = [...stageValues].filter(([, each]) => each !== value)
  return [
    ...named.map(([stage, each]) => `${displayValue(each, how)} in ${stage}`),
    `${displayValue(value, how)} in ${named.length + 1 === stageValues.size ? otherThan(named, stageValues) : 'other stages'}`,
  ].join(', ')
}

/** The one stage that is left. */
function otherThan(named: readonly (readonly [string, string])[], all: ValueByStage): string {
  return [...all.keys()].find((stage) => named.every(([each]) => each !== stage))!
}

function byPlace(a: SourceLiteral, b: SourceLiteral): number {
  if (a.file === b.file) return a.start - b.start
  return a.file < b.file ? -1 : 1
}

/** What a value is called that nothing names. */
function nameByCall({ kind }: Classification, { callee }: SourceLiteral, secret: boolean): string {
  if (kind !== 'string') return kind
  if (!secret) return 'value'
  return callee !== null && LOGS_IN.has(callee) ? 'password' : 'key'
}

/** The part of a literal that is the setting; what stands around it stays in the code. */
function findSettingPart({ value, form, isCalled }: SourceLiteral, { secret, kind, part }: Classification): string {
  if (part !== undefined) return part.value
  if (secret) return withoutScheme(value)
  // Where a program puts an address together, the places below it are its own affair.
  const isCompleted = form === 'template part' || (isCalled === true && /[/?&=#]$|%[sdv]|\{\d*\}/.test(value))
  const origin = isCompleted && kind === 'url' ? /^[a-z][\w+.-]*:\/\/[^/?#]+(?=[/?#])/i.exec(value) : null
  return origin?.[0] ?? value
}

/** An address below another one is a place of that one: the setting is what they share. */
function joinAddresses(byValue: Map<string, ClassifiedLiteral[]>): void {
  const addresses = [...byValue].filter(
    ([, [first]]) => first!.classification.kind === 'url' && !first!.classification.secret,
  )
  addresses.sort(([a], [b]) => a.length - b.length)
  const kept = new Map<string, ClassifiedLiteral[]>()
  for (const [key, group] of addresses) {
    const { value } = group[0]!
    const above = listBeginnings(value).find((each) => kept.has(each))
    if (above === undefined) {
      if (!kept.has(value)) kept.set(value, group)
      continue
    }
    byValue.delete(key)
    kept.get(above)!.push(...group.map((each) => ({ ...each, value: above })))
  }
}

/** The addresses that one may be below, the shortest first. */
function listBeginnings(address: string): readonly string[] {
  const ends = [...address.matchAll(/[/?#]/g)].flatMap(({ 0: mark, index }) =>
    mark === '/' ? [index, index + 1] : [index],
  )
  return ends.map((end) => address.slice(0, end)).filter((each) => isNested(address, each))
}

/** A text that holds another secret, as an address with a key in it does, is a place of that one. */
function joinSecrets(byValue: Map<string, ClassifiedLiteral[]>): void {
  const secrets = [...byValue].filter(([, group]) => group.some(({ classification }) => classification.secret))
  secrets.sort(([a], [b]) => a.length - b.length)
  for (const [index, [key, group]] of secrets.entries()) {
    const { value } = group[0]!
    const inner = secrets
      .slice(0, index)
      .find(([other, [first]]) => byValue.has(other) && first!.value.length >= 8 && value.includes(first!.value))
    if (inner === undefined) continue
    byValue.delete(key)
    inner[1].push(...group.map((each) => ({ ...each, value: inner[1][0]!.value })))
  }
}

/** True for an address that begins with another and goes on with a path, a query or a fragment (RFC 3986). */
export function isNested(address: string, other: string): boolean {
  return address.startsWith(other) && (other.endsWith('/') || /^[/?#]/.test(address.slice(other.length)))
}
