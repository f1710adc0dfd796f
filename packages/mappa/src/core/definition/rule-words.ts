import { conditionsInWords, conditionsOf } from './conditions.ts'
import type { Declaration } from './definition.ts'
import { type Constraint, type ConstraintName, constraints } from './kinds/constraints.ts'

/**
 * What a setting may hold, as text: its kind, whether it is needed, and its rules.
 *
 * @returns pieces to be joined, such as `whole number`, `required`, `at least 1`
 */
export function rulesInWords({
  kind,
  options,
  secret,
  optional,
  public: isPublic,
  readAt,
  default: value,
}: Declaration): string[] {
  const withoutValue = optional ? 'optional' : 'required'
  const need = value === undefined ? withoutValue : `default ${kind.toText(value, options) || 'empty'}`
  const rules = kind.constraints
    .filter((name) => options[name] !== undefined)
    .map((name: ConstraintName) => {
      const limit = options[name]
      const said = kind.show === true && typeof limit === 'number' ? kind.toText(limit, options) : limit
      return (constraints[name] as Constraint).describe(said as never)
    })
  const conditions = (['requiredIf', 'forbiddenIf'] as const).flatMap((rule) => {
    const own = conditionsOf({ options }).filter((each) => each.rule === rule)
    if (own.length === 0) return []
    return [`${rule === 'requiredIf' ? 'required' : 'forbidden'} when ${conditionsInWords(own)}`]
  })
  const { requiredIn: required = [] } = options
  if (required.length > 0) conditions.push(`required in ${required.join(' and ')}`)
  if (options.distinctAcrossStages === true) conditions.push('different in each stage')
  if (options.rotateEvery !== undefined) conditions.push(`rotated every ${options.rotateEvery}`)
  const reach: string[] = []
  if (secret) reach.push('secret')
  if (isPublic) reach.push(readAt === 'runtime' ? 'public, read at runtime' : 'public')
  return [kind.describe(options), ...reach, need, ...rules, ...conditions]
}
