const { createRequire } = process.getBuiltinModule('node:module')

/**
 * Takes the place of `@babel/parser` in the command: the package is loaded when the first file is parsed. A survey of files that have not
 * changed parses none, and loading it would take longer than all the rest.
 */
export const parse: typeof import('@babel/parser').parse = (...given) => {
  const parser = createRequire(import.meta.url)('@babel/parser') as typeof import('@babel/parser')
  return parser.parse(...given)
}
