/**
 * What all parsers' nodes have in common. Trees of Babel have types of their own (`@babel/types`), and so have those of ESTree (from
 * Vite); this one is for code that reads both.
 */
export interface SyntaxNode {
  readonly type: string
  readonly start: number
  readonly end: number
  readonly [member: string]: unknown
}
