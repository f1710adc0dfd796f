import type { Declaration } from './definition.ts'
import { type Check, check } from './kinds/check.ts'
import { type Constraint, constraints } from './kinds/constraints.ts'
import type { Failure } from './kinds/failure.ts'
import type { Kind, Options } from './kinds/kind.ts'

/** The constraints of a setting, and its own check, ready to be put to a value. */
export function collectChecks({ constraints: names, show, toText }: Kind, options: Options): Declaration['checks'] {
  const checks: Declaration['checks'][number][] = []
  for (const name of names) {
    if (options[name] === undefined) continue
    const check = (constraints[name] as Constraint).check(
      options[name] as never,
      options,
    ) as Declaration['checks'][number]
    checks.push(show === true ? (value) => formatLimits(check(value), (limit) => toText(limit, options)) : check)
  }
  const own = options.check as Check<unknown> | undefined
  if (own !== undefined) {
    checks.push((value) => {
      const answer = check.ask(own, value)
      return 'failure' in answer ? answer.failure : null
    })
  }
  return checks
}

/** A failure whose limits are told as texts of the kind, `15m` for example. */
function formatLimits(failed: Failure | null, toText: (value: unknown) => string): Failure | null {
  if (failed === null) return null
  const details = Object.entries(failed.details).map(([key, each]) => [
    key,
    typeof each === 'number' ? toText(each) : each,
  ])
  return { ...failed, details: Object.fromEntries(details) as object }
}

/** Pairs of limits, the lower one first. */
const LIMITS = [
  ['minimum', 'maximum', false],
  ['minimum', 'exclusiveMaximum', true],
  ['exclusiveMinimum', 'maximum', true],
  ['exclusiveMinimum', 'exclusiveMaximum', true],
  ['minLength', 'maxLength', false],
  ['minItems', 'maxItems', false],
] as const

/** Two limits between which there is no value. */
export function findContradiction(options: Options): readonly [lower: string, upper: string] | null {
  for (const [lower, upper, excludes] of LIMITS) {
    const [from, to] = [options[lower], options[upper]]
    if (typeof from !== 'number' || typeof to !== 'number') continue
    if (from > to || (excludes && from === to)) return [lower, upper]
  }
  return null
}
