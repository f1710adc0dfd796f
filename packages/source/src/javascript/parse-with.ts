import type { Program } from '@babel/types'

/** The parser of Babel, as whoever parses has it. */
export type BabelParse = typeof import('@babel/parser').parse

/** A parsed file. */
export interface ParsedSource {
  readonly program: Program
  /** How many places of the text were not understood. */
  readonly faults: number
}

/** What a text makes a parser throw; the second where it is nested too deeply. */
const NOT_UNDERSTOOD: ReadonlySet<string> = new Set(['SyntaxError', 'RangeError'])

/**
 * Parses JavaScript or TypeScript, with or without JSX. What is wrong in one place does not keep the rest from being
 * understood.
 *
 * @param file a name whose ending says the language
 * @returns the tree; `null` where the text can't be understood at all
 */
export function parseText(parse: BabelParse, text: string, file: string): ParsedSource | null {
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
    return { program: tree.program, faults: (tree.errors ?? []).length }
  } catch (error) {
    // All else is no fault of the text: a parser that is not there, or one that does not know what it is asked for.
    if (!NOT_UNDERSTOOD.has((error as Error).name)) throw error
    return null
  }
}
