import type { SourceLiteral } from '@mappa/source/source'
import { type Classification, classify } from './classify.ts'

/** The value of each stage. */
export type ValueByStage = ReadonlyMap<string, string>

/** A literal that should be a setting, and the part of it that is the setting's value. */
export interface ClassifiedLiteral {
  readonly literal: SourceLiteral
  readonly classification: Classification
  readonly value: string
  readonly stageValues?: ValueByStage
}

/** A conditional that becomes one setting. */
export interface ChosenValues extends ClassifiedLiteral {
  /** The same for conditionals that choose the same values for the same stages. */
  readonly key: string
  readonly stageValues: ValueByStage
}

/**
 * Takes the conditionals out of literals that choose between values by the stage. A conditional is one place: that of its first
 * value.
 *
 * @param stages those of the project; a conditional that asks for another one is none
 */
export function withoutChoices(
  literals: readonly SourceLiteral[],
  stages: readonly string[],
): { readonly alone: readonly SourceLiteral[]; readonly chosen: readonly ChosenValues[] } {
  const byConditional = new Map<string, SourceLiteral[]>()
  for (const each of literals) {
    if (each.choice === undefined) continue
    const key = `${each.choice.start} ${each.file}`
    byConditional.set(key, [...(byConditional.get(key) ?? []), each])
  }
  const chosen: ChosenValues[] = []
  const taken = new Set<SourceLiteral>()
  for (const group of byConditional.values()) {
    const values = listChosenValues(group, stages)
    if (values === null) continue
    chosen.push(values)
    for (const each of group) taken.add(each)
  }
  const left = taken.size === 0 ? literals : literals.filter((each) => !taken.has(each))
  // One of several that stay apart stands in for nothing by itself.
  return { alone: left.map((each) => (each.variableAround === undefined ? each : { ...each, variable: null })), chosen }
}

/** The setting that a conditional becomes; `null` where it has to stay. */
function listChosenValues(group: readonly SourceLiteral[], stages: readonly string[]): ChosenValues | null {
  const first = group[0]!
  const isWhole = group.length === first.choice!.count
  const known = group.every(({ choice }) => choice!.stage === null || stages.includes(choice!.stage))
  const others = group.find(({ choice }) => choice!.stage === null)
  if (!isWhole || !known || others === undefined) return null
  const classified = group.flatMap((each) => classify(each) ?? [])
  const [surest] = [...classified].sort((a, b) => b.confidence - a.confidence)
  if (surest === undefined) return null
  const own = new Map(group.map((each) => [each.choice!.stage, each.value]))
  const stageValues = new Map(stages.map((stage) => [stage, own.get(stage) ?? others.value]))
  // A value that no stage has would be gone.
  const used = new Set(stageValues.values())
  if (group.some(({ value }) => !used.has(value))) return null
  return {
    key: `stages ${JSON.stringify([...stageValues])}`,
    literal: first,
    classification: mergeValues(surest, classified, group.length),
    value: others.value,
    stageValues,
  }
}

/** What all values of a conditional are: secret if one is, and of a kind if all are. */
function mergeValues(surest: Classification, all: readonly Classification[], count: number): Classification {
  const { part: _, ...whole } = surest
  const sameKind = all.length === count && all.every(({ kind }) => kind === surest.kind)
  return { ...whole, secret: all.some(({ secret }) => secret), kind: sameKind ? surest.kind : 'string' }
}
