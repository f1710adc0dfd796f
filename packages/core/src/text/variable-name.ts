/** What a variable name looks like: the portable names of POSIX, small letters included. */
const VARIABLE_NAME = /^[A-Za-z_][A-Za-z0-9_]*$/

/** True for a name that a variable can have. */
export function isVariableName(name: unknown): name is string {
  return typeof name === 'string' && VARIABLE_NAME.test(name)
}
