import { type Location, type Problem, problem } from '../problems/problem.ts'
import { displayValue } from '../secret/display.ts'
import type { Failure } from './kinds/failure.ts'

/** Stands for a value that is no secret, and contains one. */
export const CONTAINS_SECRET = '(not shown, since it contains a secret)'

/**
 * Words a failure for the value it is about. What is near to a secret is not told, since it would reveal the secret.
 *
 * @param value the name of the variable, its text, and whether that may be shown; `contains` for a text that only contains a secret
 */
export function toFailureProblem(
  { code, details, item }: Failure,
  { name, text, secret, contains = false }: { name: string; text: string; secret: boolean; contains?: boolean },
  place: Location = {},
): Problem {
  const hidden = secret ? { near: null, ...('why' in details ? { why: 'its reason could show the value' } : {}) } : {}
  const told = {
    ...details,
    name: item === undefined ? name : `Item ${item.index} of ${name}`,
    shown: contains ? CONTAINS_SECRET : displayValue(item?.text ?? text, { secret }),
    ...hidden,
  }
  return problem(code, told as never, place)
}
