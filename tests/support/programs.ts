import { missingPrograms, type ProgramName } from '../../scripts/machine.mjs'

export type { ProgramName }

/**
 * Options of a test that needs programs of this machine. Where one is missing the test is skipped, and `npm test` names it at its end;
 * with `CI=true` it does not even begin.
 *
 * @param programs as `scripts/machine.mjs` calls them
 */
export function needs(...programs: readonly ProgramName[]): { readonly skip: string | false } {
  const missing = missingPrograms(programs)
  return { skip: missing.length > 0 && `${missing.join(', ')} is not installed` }
}
