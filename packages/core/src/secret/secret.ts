import { toMeaning } from '../text/meaning.ts'

/** What a `Secret` may tell about itself without telling its value. */
export interface SecretLabel {
  /** Where the value came from, such as `.env.production.local:2` or `the process environment`. */
  readonly from?: string
}

/**
 * A value that is never shown by accident.
 *
 * Printing, logging, string templates, `JSON.stringify` and `util.inspect` give a mask with the length of the
 * value, in characters, bytes or items, and where it came from. Only {@link Secret.reveal} gives the value (and {@link Secret.revealAll}), so one search for
 * `.reveal` finds every place where a program uses a secret.
 *
 * @example
 * ```ts
 * const key = new Secret('a key nobody uses')
 * `${key}`      // '(secret, 17 characters)'
 * key.reveal()  // 'a key nobody uses'
 * ```
 */
export class Secret<T = string> {
  // Private fields are out of reach of `util.inspect`, also with `showHidden`.
  readonly #value: T
  readonly #mask: string
  readonly #former: T | null
  /**
   * A number that two secrets share only if their values are equal, so that assertions and test runners, which compare what
   * they can see, tell them apart. It is random and says nothing about the value.
   */
  declare readonly identity: number

  /**
   * @param value the value to keep
   * @param label what the mask may say beside the length
   * @param former the value that it had before, while that is still accepted
   */
  constructor(value: T, label: SecretLabel = {}, former?: T) {
    this.#value = value
    this.#mask = mask(value, label.from)
    this.#former = former ?? null
    // Worked out when somebody compares: most programs never do.
    let identity: number | undefined
    const get = () => {
      identity ??= identify(this, value)
      return identity
    }
    Object.defineProperty(this, 'identity', { get, enumerable: true })
    Object.freeze(this)
  }

  /** Gives the value itself. The one way to it. */
  reveal(): T {
    return this.#value
  }

  /**
   * Gives every value that is accepted now, for the end that checks what others send: this one, then the former one, where the setting
   * has `acceptFormerFor` and a former value is set.
   *
   * @example
   * ```ts
   * const isSigned = settings.gate.key.revealAll().some((key) => verify(request, key))
   * ```
   */
  revealAll(): readonly T[] {
    return this.#former === null ? [this.#value] : [this.#value, this.#former]
  }

  /** The mask, never the value. */
  toString(): string {
    return this.#mask
  }

  /** The mask, never the value, for `JSON.stringify`. */
  toJSON(): string {
    return this.#mask
  }

  /** The mask, whatever the value is converted to; a number or a comparison never sees the value either. */
  [Symbol.toPrimitive](): string {
    return this.#mask
  }

  /** The mask for `console.log` and `util.inspect` of Node. */
  [Symbol.for('nodejs.util.inspect.custom')](): string {
    return this.#mask
  }

  /** What `Object.prototype.toString` says. */
  get [Symbol.toStringTag](): string {
    return 'Secret'
  }
}

/**
 * The text that stands for a secret value.
 *
 * @param value the value, of which only the length is told: characters (Unicode code points) of a text, bytes, or items of a list; of
 *   other data, nothing
 * @param from where it came from, if that is to be told
 */
export function mask(value: unknown, from?: string): string {
  const told = ['secret', ...describeLength(value), ...(from ? [`from ${from}`] : [])]
  return `(${told.join(', ')})`
}

function describeLength(value: unknown): readonly string[] {
  const count = (length: number, what: string) => [`${length} ${what}${length === 1 ? '' : 's'}`]
  if (value instanceof Uint8Array) return count(value.length, 'byte')
  if (Array.isArray(value)) return count(value.length, 'item')
  return typeof value === 'object' ? [] : count([...String(value)].length, 'character')
}

/** The number of each value that somebody compares, and how many secrets have it. */
const identities = new Map<string, { readonly identity: number; secrets: number }>()

/** A value that no secret has any more is forgotten: a program that reads its settings again and again keeps none of the old ones. */
const collected = /* @__PURE__ */ new FinalizationRegistry<string>((text) => {
  const known = identities.get(text)
  if (known === undefined) return
  known.secrets -= 1
  if (known.secrets === 0) identities.delete(text)
})

/** The number of a value: a random one, the same for equal values of this process. */
function identify(secret: object, value: unknown): number {
  const text = toMeaning(value)
  const known = identities.get(text) ?? { identity: Math.random(), secrets: 0 }
  known.secrets += 1
  identities.set(text, known)
  collected.register(secret, text)
  return known.identity
}
