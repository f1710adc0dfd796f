import { parse } from '@babel/parser'

/** A node of a syntax tree, as far as this project looks at one. */
export interface SyntaxNode {
  readonly type: string
  readonly start: number
  readonly end: number
  readonly loc: { readonly start: { readonly line: number; readonly column: number } }
  readonly [member: string]: unknown
}

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
 * @returns the tree; `null` where the text can't be understood at all
 */
export function parseSource(text: string, file: string): SyntaxNode | null {
  return parseFile(text, file)?.program ?? null
}

/** The same, and whether all of it was understood. */
export function parseFile(text: string, file: string): ParsedSource | null {
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
