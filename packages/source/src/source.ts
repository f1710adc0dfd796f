/** A place in a source file; line and column count from 1, offsets from 0, all in UTF-16 code units. */
export interface SourcePlace {
  /** Path of the file, relative to the root, with `/` between directories. */
  readonly file: string
  readonly line: number
  readonly column: number
}

/** A fixed value that stands in a source file, and what can be said of it without knowing the language. */
export interface SourceLiteral extends SourcePlace {
  /** The value, escapes undone. */
  readonly value: string
  /** What it is written as: a text, a number, or the fixed part of a template with other parts in it. */
  readonly form: 'text' | 'number' | 'template part'
  /**
   * The names it is given to, outermost first: a variable and the keys that lead to the value, a parameter, or the
   * variable of the environment it stands in for.
   */
  readonly names: readonly string[]
  /** The function it is passed to, if any: `listen`, `connect`. */
  readonly callee: string | null
  /** Which argument of that function it is, from 0; left out where that is not known. */
  readonly argument?: number
  /** The variable of the environment it stands in for: `DOME_KEY` of `process.env.DOME_KEY || '...'`. */
  readonly variable: string | null
  /** The variable that a conditional stands in for, of which it is one value: `DOME_KEY` of `process.env.DOME_KEY || (a ? '...' : b)`. */
  readonly variableAround?: string
  /** Where it begins and ends in the text, quotes included. */
  readonly start: number
  readonly end: number
  /** True for an address that the code calls, or adds a path to, by a name that says nothing. */
  readonly isCalled?: true
  /** Which of the keys among its parameters it is listed for; the first if left out. */
  readonly keyIndex?: number
  /** What it is that stands beside a password: who logs in, or what is opened. */
  readonly beside?: 'user' | 'database'
  /** True for a text of several lines that stands without quotes of its own. */
  readonly isOpen?: boolean
  /** The conditional by which the stage chooses it among others, if one does. */
  readonly choice?: StageChoice
}

/** A fixed value of a conditional that chooses by the stage: `isProd ? '...' : '...'`. */
export interface StageChoice {
  /** The stage that it is for; `null` for all stages that the conditional does not name. */
  readonly stage: string | null
  /** Where the whole conditional begins and ends in the text. */
  readonly start: number
  readonly end: number
  /** How many values it chooses among. */
  readonly count: number
}

/** Tells the values that are of interest. */
export type WantedValue = (value: string, form: SourceLiteral['form']) => boolean

/** A place at which a variable of the environment is read. */
export interface SourceRead extends SourcePlace {
  readonly name: string
  /** True where the code goes on with the value as it is; false where it asks first whether there is one, or has another. */
  readonly needed: boolean
  /** What the code makes of the text; left out where nothing is to be seen. */
  readonly takenAs?: TakenAs
  /** True for `import.meta.env`, which bundlers fill: the value stands in what they build. */
  readonly built: boolean
  /** True where a comment says that the read is meant, whatever the definition has. */
  readonly isAllowed?: boolean
}

/** What code makes of a text: `parseInt(...)`, `Number(...)`, `=== 'true'`, `.split(',')`. */
export type TakenAs = 'integer' | 'number' | 'boolean' | 'list'

/** What a source file was found to hold. */
export interface Source {
  readonly literals: readonly SourceLiteral[]
  readonly reads: readonly SourceRead[]
  /** The fixed values that the code takes where a variable has none, whatever they are; `variable` is that variable. */
  readonly fallbacks?: readonly SourceLiteral[]
}
