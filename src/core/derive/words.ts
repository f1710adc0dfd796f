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
    value !== undefined ? `${kind.toText(value) || 'empty'} if left out` : optional ? 'may be left out' : 'required'
  const rules = kind.constraints
    .filter((name) => options[name] !== undefined)
    .map((name: ConstraintName) => (constraints[name] as Constraint).says(options[name] as never))
  const reach = secret ? ['secret'] : isPublic ? ['public'] : []
  return [kind.says(options), ...reach, need, ...rules]
}
