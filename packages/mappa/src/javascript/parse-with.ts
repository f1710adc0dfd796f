import type { SyntaxNode } from './syntax-node.ts'

/** The parser of Babel, as whoever parses has it. */
export type BabelParse = typeof import('@babel/parser').parse

/** A parsed file. */
export interface ParsedSource {
  readonly program: SyntaxNode
  /** True where nothing had to be left out. */
  readonly isWhole: boolean
}

/**
 * Parses JavaScript or TypeScript, with or without JSX. What is wrong in one place does not keep the rest from being
 * understood.
 *
 * @param file a name whose ending says the language
 * @returns the tree; `null` where the text can't be understood at all
 */
export function parseWith(parse: BabelParse, text: string, file: string): ParsedSource | null {
  const typescript = /\.[cm]?tsx?$/.test(file)
  // In plain TypeScript `<T>x` is a conversion, not an element.
  const jsx = !/\.[cm]?ts$/.test(file)
  try {
    const tree = parse(text, {
      sourceType: 'unambiguous',
      errorRecovery: true,
      allowReturnOutsideFunction: true,
      allowAwaitOutsideFunction: true,
      allowUndeclaredExports: true,
      allowImportExportEverywhere: true,
      attachComment: false,
      plugins: [
        ...(typescript ? (['typescript'] as const) : (['flow'] as const)),
        ...(jsx ? (['jsx'] as const) : []),
        'decorators',
        'explicitResourceManagement',
      ],
    })
    return { program: tree.program as unknown as SyntaxNode, isWhole: (tree.errors ?? []).length === 0 }
  } catch (error) {
    // A parser that is not there is no fault of the text.
    if ((error as { code?: string }).code === 'MODULE_NOT_FOUND') throw error
    return null
  }
}
