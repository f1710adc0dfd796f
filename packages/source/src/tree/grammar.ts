import type { TreeNode } from './node.ts'

/**
 * What the nodes of a language mean for the values in its files: the types are those of its grammar. What is in none of the sets
 * ends the search for names.
 */
export interface Grammar {
  readonly parse: (text: string) => TreeNode
  /** Texts in quotes. */
  readonly texts: ReadonlySet<string>
  /** Texts that begin on a line of their own, which a word ends. */
  readonly openTexts?: ReadonlySet<string>
  /** Texts in quotes with other parts in them; its children are these parts. */
  readonly formats: ReadonlySet<string>
  readonly numbers: ReadonlySet<string>
  /** What joins texts: its children are texts, and operators between them if any. */
  readonly joined: ReadonlySet<string>
  /** Lists of arguments. What is called stands before them. */
  readonly calls: ReadonlySet<string>
  /** Where a name, an operator and a value stand side by side: assignments, pairs, parameters, declarations. */
  readonly named: ReadonlySet<string>
  /** Those of them whose name says all: nothing further out counts. */
  readonly last: ReadonlySet<string>
  /** Operations with an operator between two operands. */
  readonly operations: ReadonlySet<string>
  /** What says nothing of the values in it. */
  readonly through: ReadonlySet<string>
  /** Functions; what they return is called what they are called. */
  readonly functions: ReadonlySet<string>
  /** The body of a function, and what returns a value. */
  readonly bodies: ReadonlySet<string>
  readonly returns: ReadonlySet<string>
  /** Where no text is a value: imports, types, annotations. */
  readonly noValues: ReadonlySet<string>
  /** Where a call without brackets may stand, as a name and what follows it. */
  readonly commands?: ReadonlySet<string>
  /** Finds the name in the text of a read of a variable. */
  readonly readName: (text: string) => string | undefined
  /** The value of a text in quotes. */
  readonly valueOf: (raw: string) => string
}

/** A set of the types that a text lists. */
export function types(list: string): ReadonlySet<string> {
  return new Set(list.split(/\s+/).filter((each) => each !== ''))
}
