import { displayValue } from '../secret/display.ts'
import { type Judgement, judge } from './judge.ts'
import { propose } from './propose.ts'
import type { SourceLiteral } from './source.ts'

/** A value that should be a setting, with every place in which it stands. */
export interface Finding {
  /** To name it by, from 1. */
  readonly number: number
  readonly places: readonly SourceLiteral[]
  /** The path proposed for it in the definition. */
  readonly path: string
  /** The variable name that follows. */
  readonly name: string
  readonly kind: Judgement['kind']
  readonly secret: boolean
  /** How sure it is that this should be a setting, from 0 to 1. */
  readonly sureness: number
  /** What it was taken for one by. */
  readonly why: string
  /** The value as a person may see it. */
  readonly masked: string
  /** The value itself. Never print it. */
  readonly value: string
}

/**
 * Puts together what should be settings: the same value in several places is one finding, the surest first.
 *
 * @param literals of all sources
 * @param taken paths that the definition has already
 */
export function findingsOf(literals: readonly SourceLiteral[], taken: ReadonlySet<string>): readonly Finding[] {
  const byValue = new Map<string, { literal: SourceLiteral; judgement: Judgement }[]>()
  for (const literal of literals) {
    const judgement = judge(literal)
    if (judgement === null) continue
    const same = byValue.get(`${literal.form === 'number'} ${literal.value}`)
    if (same === undefined) byValue.set(`${literal.form === 'number'} ${literal.value}`, [{ literal, judgement }])
    else same.push({ literal, judgement })
  }
  const used = new Set(taken)
  const sorted = [...byValue.values()].map((group) =>
    [...group].sort((a, b) => b.judgement.sureness - a.judgement.sureness),
  )
  sorted.sort((a, b) => b[0]!.judgement.sureness - a[0]!.judgement.sureness)
  return sorted.map((group, index) => {
    const { literal, judgement } = group[0]!
    const fallback = judgement.kind === 'string' ? (judgement.secret ? 'key' : 'value') : judgement.kind
    const { path, name } = propose(literal, fallback, used)
    used.add(path)
    return {
      number: index + 1,
      places: group
        .map((each) => each.literal)
        .sort((a, b) => (a.file < b.file ? -1 : a.file > b.file ? 1 : a.start - b.start)),
      path,
      name,
      kind: judgement.kind,
      secret: judgement.secret,
      sureness: judgement.sureness,
      why: judgement.why,
      masked: displayValue(literal.value, { secret: judgement.secret, widest: 60, bare: literal.form === 'number' }),
      value: literal.value,
    }
  })
}
