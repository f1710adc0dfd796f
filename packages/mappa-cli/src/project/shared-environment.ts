import type { Definition } from '@mappa/core/definition/definition'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import type { Problem } from '@mappa/core/problems/problem'
import { readFilled } from '@mappa/node/load/filled-environment'
import { listNames } from '@mappa/node/sources/project-sources'

type Environment = Readonly<Record<string, string | undefined>>

/**
 * The environment of this process where several stages are looked at together: it is that of one of them at most, so no setting is taken from
 * it. All else stays, since values may refer to it: `${HOME}`.
 *
 * @param stage the first of the stages, to name in a hint
 * @returns the environment, and a notice of what was left out
 */
export function environmentOfSeveral(
  definition: Definition,
  environment: Environment,
  stage: string,
): { readonly environment: Environment; readonly problems: readonly Problem[] } {
  const declared = new Set(listNames(definition))
  const filled = readFilled(environment)
  const names = [...declared].filter((name) => environment[name] && !filled.names.includes(name))
  const others = Object.entries(environment).filter(([name]) => !declared.has(name))
  const problems =
    names.length === 0
      ? []
      : [commandProblem('environment-left-out', { names, stage }, { layer: 'the process environment' })]
  return { environment: Object.fromEntries(others), problems }
}

/** Codes of what a command says of the environment, also where it says nothing else of a stage. */
const ENVIRONMENT_CODES: readonly string[] = [
  'environment-left-out',
  'environment-from-file',
  'environment-loaded',
  'filled-for-other',
  'filled-unclear',
]

/** What is to be said of the environment that values may have been taken from. */
export function environmentProblems(problems: readonly Problem[]): readonly Problem[] {
  return problems.filter(({ code }) => ENVIRONMENT_CODES.includes(code))
}
