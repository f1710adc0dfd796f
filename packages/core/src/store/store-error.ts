/**
 * What went wrong with a store: it could not be `unreachable`, it gave no answer in time (`timeout`), it refused access (`denied`), it
 * was changed meanwhile (`conflict`), it refused what it was sent (`refused`), or its answer was none that it may give (`answer`).
 */
export type StoreErrorKind = 'unreachable' | 'timeout' | 'denied' | 'conflict' | 'refused' | 'answer'

/** Marks the error, also across two copies of this package in one program. */
const STORE_ERROR = Symbol.for('mappa.store-error')

/**
 * What an implementation of a store throws.
 *
 * @example
 * ```ts
 * throw new StoreError('unreachable', '127.0.0.1:2379 refused the connection')
 * ```
 */
export class StoreError extends Error {
  readonly [STORE_ERROR] = true
  readonly kind: StoreErrorKind
  /** What happened, as a part of a sentence. */
  readonly reason: string

  /**
   * @param reason what happened, as a part of a sentence, without any value, user name or password
   */
  constructor(kind: StoreErrorKind, reason: string) {
    super(reason)
    this.kind = kind
    this.reason = reason
    Object.defineProperty(this, STORE_ERROR, { enumerable: false })
  }

  override get name(): string {
    return 'StoreError'
  }
}

/** True for a {@link StoreError}, also one of another copy of this package. */
export function isStoreError(error: unknown): error is StoreError {
  return typeof error === 'object' && error !== null && STORE_ERROR in error
}

/** True where another member of a store may answer, and where values that were kept may be used: nothing was refused. */
export function isNoAnswer(error: unknown): boolean {
  return mayPass(error) || (isStoreError(error) && error.kind === 'answer')
}

/** True where the same request may succeed in a moment. */
export function mayPass(error: unknown): boolean {
  return isStoreError(error) && (error.kind === 'unreachable' || error.kind === 'timeout')
}
