import type { FilterName } from '@mappa/core/template/filters'

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

/** Where a value goes in a document. */
export interface ValuePlace {
  /** The text before it, as it will be. */
  readonly before: string
  /** The text behind it, up to the next placeholder. */
  readonly after: string
  /** How the text is written that it belongs to; `null` where nothing is known of the language, or it belongs to none. */
  readonly style: Style | null
  /** True if it is all of that text. */
  readonly isWhole: boolean
}

/** A language that outputs can be checked in. A new one is a file like those beside this one, and one line in `index.ts`. */
export interface Language {
  readonly name: string
  /** The endings of its files. */
  readonly files: RegExp
  /** The filter that makes values fit. */
  readonly filter: FilterName
  /** True where that is for this language alone, so that what uses it is in the language whatever it is called. */
  readonly ownsFilter?: boolean
  /** Takes a document apart, in the order of its text. */
  readonly tokens: (text: string) => readonly Token[] | NotValid
  /**
   * Why a value can't be written like this, whatever the parser here makes of it: other parsers read it differently, or not at all.
   *
   * @param written the value as it is to be written
   * @returns the end of a sentence; `null` for a value that all read alike
   */
  readonly refuse?: (written: string, place: ValuePlace) => string | null
}
