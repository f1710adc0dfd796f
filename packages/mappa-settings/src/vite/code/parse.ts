import type { SyntaxNode } from '@mappa/source/javascript/syntax-node'
import * as vite from 'vite'

/** Vite 6 and 7 have a parser for what they hand to plugins, JavaScript; that of Vite 8 takes TypeScript and JSX too. */
const { parseSync, parseAst } = vite as Partial<Pick<typeof vite, 'parseSync'>> & {
  readonly parseAst?: (code: string, options: { jsx: boolean }) => unknown
}

/**
 * Parses code of a page with the parser that Vite has.
 *
 * @param file a name whose ending says the language
 * @returns the program, a tree of ESTree; `null` where the code can't be parsed
 */
export function parseCode(file: string, code: string): SyntaxNode | null {
  if (parseSync !== undefined) {
    const { program, errors } = parseSync(file, code)
    return errors.length > 0 ? null : (program as unknown as SyntaxNode)
  }
  try {
    return parseAst!(code, { jsx: true }) as SyntaxNode
  } catch {
    return null
  }
}
