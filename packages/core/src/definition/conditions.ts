import type { Declaration } from './definition.ts'

/** One other setting that a rule of a setting depends on. */
export interface Condition {
  readonly rule: 'requiredIf' | 'forbiddenIf'
  /** The path of the other setting. */
  readonly other: string
  /** The values under which it holds. */
  readonly values: readonly unknown[]
}

const NONE: readonly Condition[] = []

/** Everything that the rules of a setting depend on. */
export function listConditions({ options }: Pick<Declaration, 'options'>): readonly Condition[] {
  if (options.requiredIf === undefined && options.forbiddenIf === undefined) return NONE
  return (['requiredIf', 'forbiddenIf'] as const).flatMap((rule) =>
    Object.entries((options[rule] as object | undefined) ?? {}).map(([other, wanted]) => ({
      rule,
      other,
      values: Array.isArray(wanted) ? wanted : [wanted],
    })),
  )
}

/**
 * The values that a rule waits for, as the other setting has them: a text of a kind with units is converted, and for a list,
 * one list is one value.
 */
export function listWantedValues(
  { values }: Condition,
  { kind, options }: Pick<Declaration, 'kind' | 'options'>,
): unknown[] {
  const all = kind.items !== undefined && !values.every(Array.isArray) ? [values] : values
  if (kind.readsText !== true) return [...all]
  return all.map((each) => {
    const read = typeof each === 'string' ? kind.convert(each, options) : null
    return read !== null && 'value' in read ? read.value : each
  })
}

/** A rule as text: `dome.motors is true`. */
export function describeConditions(conditions: readonly Condition[]): string {
  return conditions
    .map(({ other, values }) => `${other} is ${values.map((each) => JSON.stringify(each)).join(' or ')}`)
    .join(' and ')
}
