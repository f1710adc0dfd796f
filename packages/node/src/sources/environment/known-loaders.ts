import { path } from '../../fs/builtin.ts'
import { getCurrentDirectory } from '../../project/root.ts'
import type { Variables } from './process-environment.ts'

/** A runtime or a framework that has loaded env files into the environment of this process. */
export interface KnownLoader {
  /** The files that it was told to load, beside those of the project. */
  readonly files: readonly string[]
  /** How to turn that off, for a hint. */
  readonly turnOff: string
  /** True for what does so before any code of a program runs, so that it may have set `NODE_ENV` as well. */
  readonly isRuntime: boolean
}

const RUN_FROM_OUTSIDE = 'start the program with mappa run -- COMMAND'

/**
 * What is known to have loaded env files: runtimes by what they are, frameworks by the mark that they leave in the environment.
 *
 * @returns `null` where nothing is known to have done so; another loader may have all the same
 */
export function findKnownLoader(environment: Variables): KnownLoader | null {
  const { execArgv, versions } = process
  const files = listFilesNamed(execArgv)
  if (versions.bun !== undefined && !execArgv.includes('--no-env-file'))
    return { files, turnOff: 'start Bun with --no-env-file', isRuntime: true }
  if (files.length > 0 && versions.bun === undefined)
    return { files, turnOff: 'leave --env-file out of the call of node', isRuntime: true }
  if ((versions as { deno?: string }).deno !== undefined)
    return { files, turnOff: 'leave --env-file out of the call of deno', isRuntime: true }
  if ((environment.npm_config_user_agent ?? '').startsWith('bun/'))
    return { files, turnOff: 'start the script with bun --no-env-file run', isRuntime: true }
  // Next.js leaves what it has loaded there, for the processes that it starts.
  if (environment.__NEXT_PROCESSED_ENV !== undefined) return { files, turnOff: RUN_FROM_OUTSIDE, isRuntime: false }
  return null
}

/** How to keep anything else from loading env files. */
export function describeTurnOff(loader: KnownLoader | null): string {
  return loader?.turnOff ?? RUN_FROM_OUTSIDE
}

/** The files that `--env-file FILE` and `--env-file-if-exists=FILE` name. */
function listFilesNamed(words: readonly string[]): string[] {
  const current = getCurrentDirectory()
  return words.flatMap((word, index) => {
    const [, inline] = /^--env-file(?:-if-exists)?(?:=(.*))?$/s.exec(word) ?? [undefined, null]
    if (inline === null) return []
    const file = inline ?? words[index + 1]
    return file === undefined ? [] : [path.resolve(current, file)]
  })
}
