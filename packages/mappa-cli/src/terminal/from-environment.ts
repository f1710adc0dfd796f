import { err } from './streams.ts'

/**
 * Says on standard error which values were taken from the environment of this process, which may be that of another stage.
 *
 * @param names the variables
 */
export function printFromEnvironment(names: readonly string[]): void {
  if (names.length === 0) return
  err.print(err.paint.faint(`From the environment of this process, not from files: ${names.join(', ')}`))
}
