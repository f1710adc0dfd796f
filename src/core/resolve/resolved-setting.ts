import type { Declaration } from '../definition/definition.ts'
import type { Origin } from '../layers/layer.ts'
import type { Candidate } from '../layers/merge.ts'

/** One setting with its value, or with what keeps it from having one. */
export interface ResolvedSetting {
  readonly declaration: Declaration
  /** The typed value, not wrapped; `undefined` where there is none. Never print it: see {@link masked}. */
  readonly value: unknown
  /** The value as text, also where it does not convert; `undefined` where there is none. */
  readonly text: string | undefined
  /** True where the value must not be shown: a secret, or a value that holds one by reference. */
  readonly masked: boolean
  /** True where the setting can be used as it is. */
  readonly valid: boolean
  /** Where the value came from; `null` where no layer sets it. */
  readonly origin: Origin | null
  /** Every layer that sets the name, the winner first. */
  readonly candidates: () => readonly Candidate[]
}
