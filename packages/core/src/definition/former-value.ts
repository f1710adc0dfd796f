import type { Declaration } from './definition.ts'

/** The variable that holds the former value of another. */
export function nameFormer(name: string): string {
  return `${name}_FORMER`
}

/** What says when there must be a value, or how old it may be, is about the present one. */
const OF_PRESENT = [
  'name',
  'formerly',
  'default',
  'optional',
  'requiredIn',
  'requiredIf',
  'forbiddenIf',
  'rotateEvery',
  'distinctAcrossStages',
]

/**
 * The setting that holds the former value of another one, for as long as both are accepted. It is a setting like any other for
 * whatever reads, checks, hides or writes variables; only the tree of values has no place for it.
 */
export function declareFormer(present: Declaration): Declaration {
  return {
    ...toFormer(present),
    stages: Object.fromEntries(
      Object.entries(present.stages).map(([stage, each]) => [stage, each === null ? null : toFormer(each)]),
    ),
  }
}

function toFormer(present: Declaration): Declaration {
  const kept = Object.entries(present.options).filter(([option]) => !OF_PRESENT.includes(option))
  return {
    ...present,
    path: `${present.path}.former`,
    name: nameFormer(present.name),
    formerly: [],
    description: `Former value of ${present.name}, accepted until all use the new one`,
    optional: true,
    allowEmpty: false,
    default: undefined,
    options: { ...Object.fromEntries(kept), optional: true },
    formerOf: present.path,
  }
}

/** True for a setting that has a place of its own in the tree of values. */
export function hasPlace({ formerOf }: Pick<Declaration, 'formerOf'>): boolean {
  return formerOf === null
}
