import type { LoadingCode, ProblemDetails } from '../../problems/problem.ts'

/**
 * A value that could not be converted or broke a rule. A kind names the code and what its sentence needs beside
 * the name and the value; whether the value may be shown is not for a kind to know.
 */
export interface Failure {
  readonly code: LoadingCode
  readonly details: object
  /** The item of a list that it is about: its place, from 1, and its text. */
  readonly item?: { readonly index: number; readonly text: string }
}

/** The outcome of a conversion. */
export type Conversion<T> =
  | { readonly value: T }
  | {
      readonly failure: Failure
      /** Others beside it. */
      readonly more?: readonly Failure[]
    }

/**
 * Makes a failure.
 *
 * @param details what the sentence of the code needs; `name` and `shown` are added where it is reported
 */
export function failure<Code extends LoadingCode>(
  code: Code,
  details: Omit<ProblemDetails<Code>, 'name' | 'shown'>,
): { failure: Failure } {
  return { failure: { code, details } }
}
