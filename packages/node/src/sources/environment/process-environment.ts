/** Variables by name. */
export type Variables = Readonly<Record<string, string | undefined>>

/** The variables that a program takes settings from. */
export interface ProcessEnvironment {
  readonly values: Variables
  /** False for variables that a program passed itself: they are taken as they are. */
  readonly isOfProcess: boolean
}

/**
 * The variables of this process. Some of them may have been loaded from env files; `withoutLoaded` tells which.
 *
 * @param values `process.env`
 */
export function processEnvironment(values: Variables): ProcessEnvironment {
  return { values, isOfProcess: true }
}

/** An environment that a program passed itself. */
export function chooseEnvironment(values: Variables): ProcessEnvironment {
  return { values, isOfProcess: false }
}
