import type { ProblemCode, ProblemDetails } from '../../problems/problem.ts'

/** What conversion needs to know to word a problem: it never gets to show the value by itself. */
export interface Subject {
  /** Variable name of the setting. */
  readonly name: string
  /** The value as a person may see it. Worked out when it is read: most values have nothing wrong with them. */
  readonly shown: string
  /** True where nothing may be said that tells a part of the value. */
  readonly secret: boolean
}

/** A value that could not be converted or broke a rule: the code and what its sentence needs. */
export interface Failure {
  readonly code: ProblemCode
  readonly details: object
}

/** The outcome of a conversion. */
export type Conversion<T> = { readonly value: T } | { readonly failure: Failure }

/** A failure with details that fit its code. */
export function failure<Code extends ProblemCode>(code: Code, details: ProblemDetails<Code>): { failure: Failure } {
  return { failure: { code, details: details as object } }
}
