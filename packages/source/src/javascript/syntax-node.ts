/** A node of a syntax tree, of ESTree or of Babel, as far as this project looks at one. */
export interface SyntaxNode {
  readonly type: string
  readonly start: number
  readonly end: number
  readonly loc: { readonly start: { readonly line: number; readonly column: number } }
  readonly [member: string]: unknown
}
