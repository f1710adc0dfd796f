/** A piece of a source that stands there once, and what is put in its place. */
interface Change {
  readonly file: string
  readonly find: string
  readonly replace: string
}

/** A protection, and how it is broken. */
export interface Mutant extends Change {
  /** The beginning of the first cell of the row of docs/security.md that it belongs to. */
  readonly row: string
  readonly breaks: string
  /** What else has to be broken with it. */
  readonly more?: readonly Change[]
  /** The file of the test that has to fail. */
  readonly test: string
  /** What is in its name. */
  readonly name: string
}

export declare const MUTANTS: readonly Mutant[]
export declare function listRows(markdown: string): readonly string[]
