/** A value to look for in a source file. */
export interface Wanted {
  readonly value: string
  /**
   * Where it counts: `everywhere`, also within longer texts; as an `address`, which is the whole of a text or what a
   * longer one begins with; or only where the survey has `found` it.
   */
  readonly reach: 'everywhere' | 'address' | 'found'
  /** Offsets in this file at which the survey has found it. */
  readonly found: ReadonlySet<number>
  /** The conditional that is replaced in its place, by offsets; none where the value stands alone. */
  readonly within?: { readonly start: number; readonly end: number }
}
