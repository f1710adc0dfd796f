import type { FilterName } from '../../../../../mappa/src/core/template/filters.ts'

/** How a text is written in its language. */
export type Style = 'structure' | 'plain' | 'double' | 'single' | 'literal' | 'folded'

/** A piece of a document: the beginning of something with members, or a value of its own. */
export interface Token {
  readonly style: Style
  /** The value as text; of a plain one, as it is written. */
  readonly text: string
}

/** Why a text is not of a language. */
export interface NotValid {
  /** As the end of a sentence; nothing of a value is in it if none is in the text. */
  readonly reason: string
  /** From 0. */
  readonly offset: number
}

/** A language that outputs can be checked in. A new one is a file like those beside this one, and one line in `index.ts`. */
export interface Language {
  readonly name: string
  /** The endings of its files. */
  readonly files: RegExp
  /** The filter that makes values fit. */
  readonly filter: FilterName
  /** Takes a document apart, in the order of its text. */
  readonly tokens: (text: string) => readonly Token[] | NotValid
}
