import { type Problem, problem } from '../../core/problems/problem.ts'
import type { ProcessEnvironment } from '../sources/runtime-environment.ts'

/** The texts that the files of a stage give, by variable names. */
export type TextsOf = (stage: string) => ReadonlyMap<string, string | undefined>

/**
 * What `MAPPA_FILLED` holds: for which stage Mappa put which variables into an environment. Whoever gets that environment on can tell
 * them from those that a person has set.
 *
 * @param environment that of this process, which may have such a variable already
 */
export function filledWith(
  { MAPPA_FILLED: before = '' }: Readonly<Record<string, string | undefined>>,
  stage: string,
  names: readonly string[],
): string {
  return [...new Set([stage, ...before.split(' ').slice(1), ...names])].join(' ')
}

/**
 * Takes out of an environment what Mappa put there for another stage: nobody has chosen it for this one, and it would lie above all
 * files. What is neither of the one stage nor of the other may have been set on purpose, or not: that is an error.
 *
 * @param environment with `MAPPA_FILLED`
 * @param declared the variables of the definition
 */
export function withoutOtherStage(
  environment: ProcessEnvironment,
  stage: string,
  declared: readonly string[],
  stages: readonly string[],
  textsOf: TextsOf,
): { readonly environment: ProcessEnvironment; readonly problems: readonly Problem[] } {
  const [other = '', ...names] = environment.values.MAPPA_FILLED!.split(' ')
  const filled = names.filter((name) => declared.includes(name) && environment.values[name] !== undefined)
  if (other === stage || filled.length === 0) return { environment, problems: [] }
  const own = textsOf(stage)
  const others = stages.includes(other) ? textsOf(other) : new Map()
  const values = { ...environment.values }
  const unused: string[] = []
  const problems: Problem[] = []
  for (const name of filled) {
    if (values[name] === own.get(name)) continue
    if (values[name] === others.get(name)) {
      delete values[name]
      unused.push(name)
    } else problems.push(problem('filled-unclear', { name, other, stage }, { layer: 'the process environment', name }))
  }
  if (unused.length > 0)
    problems.push(problem('filled-for-other', { names: unused, other, stage }, { layer: 'the process environment' }))
  return { environment: { ...environment, values }, problems }
}
