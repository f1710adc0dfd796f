import type { Declaration } from '../definition/definition.ts'
import type { Failure, Subject } from '../definition/kinds/failure.ts'

/**
 * Converts a text to the kind of a setting and puts its constraints to it.
 *
 * @returns the typed value, and everything that is wrong with it; the value is `undefined` where it is not of
 *   the kind at all
 */
export function convertText(
  declaration: Declaration,
  text: string,
  subject: Subject,
): { readonly value: unknown; readonly failures: readonly Failure[] } {
  const converted = declaration.kind.convert(text, subject, declaration.options)
  if ('failure' in converted) return { value: undefined, failures: [converted.failure] }
  const failures: Failure[] = []
  for (const check of declaration.checks) {
    const failed = check(converted.value, subject)
    if (failed !== null) failures.push(failed)
  }
  return { value: converted.value, failures }
}
