import type { Declaration } from '../definition/definition.ts'
import { type Constraint, type ConstraintName, constraints } from '../definition/kinds/constraints.ts'

/**
 * What a setting may hold, in words: its kind, whether it is needed, and its rules.
 *
 * @returns pieces to be joined, such as `whole number`, `required`, `at least 1`
 */
export function rulesInWords({
  kind,
  options,
  secret,
  optional,
  public: isPublic,
  default: value,
}: Declaration): string[] {
  const need =
    value !== undefined
      ? `${kind.toText(value, options) || 'empty'} if left out`
      : optional
        ? 'may be left out'
        : 'required'
  const rules = kind.constraints
    .filter((name) => options[name] !== undefined)
    .map((name: ConstraintName) => {
      const limit = options[name]
      const said = kind.show === true && typeof limit === 'number' ? kind.toText(limit, options) : limit
      return (constraints[name] as Constraint).says(said as never)
    })
  const reach = secret ? ['secret'] : isPublic ? ['public'] : []
  return [kind.says(options), ...reach, need, ...rules]
}
