/** The version of this package, as `package.json` has it. Imported from there, all of that file would lie in what programs load. */
export const version = '0.1.0'
