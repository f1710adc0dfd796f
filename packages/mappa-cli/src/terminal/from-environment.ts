import { err } from './streams.ts'

/**
 * Says on standard error which values were taken from the environment of this process, which may be that of another stage.
 *
 * @param names the variables; those that `mappa run` has put there are known to be of the stage
 */
export function printFromEnvironment(names: readonly string[]): void {
  const filled = process.env.MAPPA_FILLED?.split(' ') ?? []
  const own = names.filter((name) => !filled.includes(name))
  if (own.length > 0)
    err.print(err.paint.faint(`From the environment of this process, not from files: ${own.join(', ')}`))
}
