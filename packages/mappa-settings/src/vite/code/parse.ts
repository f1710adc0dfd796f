import * as vite from 'vite'

/** Vite 6 and 7 have a parser for what they hand to plugins, JavaScript; that of Vite 8 takes TypeScript and JSX too. */
const { parseSync, parseAst } = vite as Partial<Pick<typeof vite, 'parseSync'>> & {
  readonly parseAst?: (code: string, options: { jsx: boolean }) => vite.ESTree.Program
}

/**
 * Parses code of a page with the parser that Vite has.
 *
 * @param file a name whose ending says the language
 * @returns the program, a tree of ESTree; `null` where the code can't be parsed
 */
export function parseCode(file: string, code: string): vite.ESTree.Program | null {
  if (parseSync !== undefined) {
    const { program, errors } = parseSync(file, code)
    return errors.length > 0 ? null : program
  }
  try {
    return parseAst!(code, { jsx: true })
  } catch {
    return null
  }
}
