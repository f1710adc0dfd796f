const { createRequire } = process.getBuiltinModule('node:module')

/** Takes the place of `@babel/parser` in the build; this file becomes part of a chunk, beside whose directory the parser lies. */
export const parse: typeof import('@babel/parser').parse = (...given) => {
  const parser = createRequire(import.meta.url)('../babel-parser.cjs') as typeof import('@babel/parser')
  return parser.parse(...given)
}
