import type { Declaration } from '../definition/definition.ts'
import type { Origin } from '../layers/layer.ts'
import type { Candidate } from '../layers/merge.ts'
import { displayValue } from '../secret/display.ts'

/** One setting with its value, or with what keeps it from having one. Logged or written as JSON, it shows no secret. */
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
  /** The variables that the text refers to, also by way of others, as far as their values are in it. */
  readonly from: ReadonlySet<string>
}

/** Makes a resolved setting of what is known, with its value out of reach of loggers. */
export function resolvedSetting(known: ResolvedSetting): ResolvedSetting {
  return new Resolved(known)
}

class Resolved implements ResolvedSetting {
  readonly declaration: Declaration
  readonly masked: boolean
  readonly valid: boolean
  readonly origin: Origin | null
  readonly candidates: () => readonly Candidate[]
  readonly from: ReadonlySet<string>
  // Private fields and getters of the class: neither `util.inspect` nor a copy of the object sees them.
  readonly #value: unknown
  readonly #text: string | undefined

  constructor({ declaration, value, text, masked, valid, origin, candidates, from }: ResolvedSetting) {
    this.declaration = declaration
    this.#value = value
    this.#text = text
    this.masked = masked
    this.valid = valid
    this.origin = origin
    this.candidates = candidates
    this.from = from
  }

  get value(): unknown {
    return this.#value
  }

  get text(): string | undefined {
    return this.#text
  }

  toJSON(): object {
    const { declaration, valid, origin, masked, text } = this
    const shown = text === undefined ? null : displayValue(text, { secret: masked })
    return { path: declaration.path, name: declaration.name, shown, masked, valid, origin }
  }

  [Symbol.for('nodejs.util.inspect.custom')](): object {
    return this.toJSON()
  }
}
