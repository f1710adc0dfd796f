import type { SearchedSecret } from '@mappa/search/needles'

/** A value that is not looked for, and why, as text. */
export interface NotSearched {
  readonly name: string
  readonly reason: string
}

/** What must not be in a page. */
export interface Search {
  readonly needles: readonly SearchedSecret[]
  readonly notSearched: readonly NotSearched[]
}
