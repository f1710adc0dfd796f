import { describeConditions, listConditions } from './conditions.ts'
import type { Declaration } from './definition.ts'
import { hasPlace } from './former-value.ts'
import { type Constraint, type ConstraintName, constraints } from './kinds/constraints.ts'

/** What a rule of a setting is about. */
export type RuleSubject = 'kind' | 'reach' | 'need' | 'constraint' | 'condition' | 'stages' | 'age'

/** A rule of a setting in words. Constraints are in the order of the checks of the setting. */
export interface RuleInWords {
  readonly about: RuleSubject
  /** Such as `whole number`, `required`, `at least 1`. */
  readonly text: string
}

/** What a setting may hold: its kind, whether it is needed, and its rules, each in words. */
export function describeRules(declaration: Declaration): readonly RuleInWords[] {
  const { kind, options, programs } = declaration
  const { requiredIn: required = [] } = options
  return [
    { about: 'kind', text: kind.describe(options) },
    ...describeReach(declaration),
    { about: 'need', text: needInWords(declaration) },
    ...(programs === null ? [] : [{ about: 'need', text: `for ${programs.join(' and ')}` } as const]),
    ...describeConstraints(declaration),
    ...describeConditionRules(declaration),
    ...(required.length > 0 ? [{ about: 'need', text: `required in ${required.join(' and ')}` } as const] : []),
    ...(options.distinctAcrossStages === true ? [{ about: 'stages', text: 'different in each stage' } as const] : []),
    ...(options.rotateEvery === undefined
      ? []
      : [{ about: 'age', text: `rotated every ${options.rotateEvery}` } as const]),
    ...(options.acceptFormerFor === undefined || !hasPlace(declaration)
      ? []
      : [{ about: 'age', text: `former value accepted for ${options.acceptFormerFor}` } as const]),
  ]
}

function describeReach({ secret, public: isPublic, readAt }: Declaration): RuleInWords[] {
  const texts: string[] = []
  if (secret) texts.push('secret')
  if (isPublic) texts.push(readAt === 'runtime' ? 'public, read at runtime' : 'public')
  return texts.map((text) => ({ about: 'reach', text }))
}

function needInWords({ default: value, kind, options, optional }: Declaration): string {
  if (value !== undefined) return `default ${kind.toText(value, options) || 'empty'}`
  return optional ? 'optional' : 'required'
}

function describeConstraints({ kind, options }: Declaration): RuleInWords[] {
  return kind.constraints
    .filter((name) => options[name] !== undefined)
    .map((name: ConstraintName) => {
      const limit = options[name]
      const said = kind.show === true && typeof limit === 'number' ? kind.toText(limit, options) : limit
      return { about: 'constraint', text: (constraints[name] as Constraint).describe(said as never) }
    })
}

function describeConditionRules({ options }: Declaration): RuleInWords[] {
  return (['requiredIf', 'forbiddenIf'] as const).flatMap((rule) => {
    const own = listConditions({ options }).filter((each) => each.rule === rule)
    if (own.length === 0) return []
    const text = `${rule === 'requiredIf' ? 'required' : 'forbidden'} when ${describeConditions(own)}`
    return [{ about: 'condition', text }]
  })
}

/**
 * The same as texts alone.
 *
 * @returns pieces to be joined, such as `whole number`, `required`, `at least 1`
 */
export function listRuleTexts(declaration: Declaration): string[] {
  return describeRules(declaration).map(({ text }) => text)
}
