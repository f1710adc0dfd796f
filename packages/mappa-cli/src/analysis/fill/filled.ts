import type { Problem } from '@mappa/core/problems/problem'
import type { Placeholder } from '@mappa/core/template/placeholders'

/** A placeholder with what it comes to, before its filters. */
export interface FilledPlaceholder {
  readonly placeholder: Placeholder
  readonly value: string
  /** True for a value of JSON, or a text of the template itself: it may be a list or an object, and not a text alone. */
  readonly isData: boolean
  /** The number that stands for it in a draft. */
  readonly marker: string
}

/** A template with its values. */
export interface FilledText {
  /** Text and filled placeholders, in order. */
  readonly pieces: readonly (string | FilledPlaceholder)[]
  readonly problems: readonly Problem[]
  /** What all its markers begin with. */
  readonly prefix: string
  /** True if a secret is in it. */
  readonly hasSecrets: boolean
}
