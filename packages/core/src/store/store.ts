/** The value of one variable in a store. */
export interface StoreEntry {
  /**
   * The text; `null` where the store keeps it to itself, as one does for secrets, or where it is no text.
   */
  readonly value: string | null
  /** True where it is there and is no UTF-8 text. */
  readonly broken?: boolean
  /** Which change of the store set it, as the store counts them; `null` where that is not known. */
  readonly revision: string | null
  /**
   * The keyed digest of the value (HMAC-SHA-256, RFC 2104, in lowercase hexadecimal), from a store that keeps values to itself, so
   * that a value can be compared with it; none in one that tells its values.
   */
  readonly digest?: string
}

/** What a store holds for one stage, at one moment: never half of a change. */
export interface StoreState {
  readonly stage: string
  /** The change of the store after which it was read, as the store counts them. */
  readonly revision: string
  /** By the name of the variable. */
  readonly entries: ReadonlyMap<string, StoreEntry>
  /** Keys among the others that can't be names of variables, as they are written. */
  readonly oddKeys?: readonly string[]
  /** The key of the digests, where there are any. */
  readonly digestKey?: string
}

/** One variable that gets another value. */
export interface StoreChange {
  readonly name: string
  /** The new text; `null` to remove the variable. */
  readonly value: string | null
}

/** One change of a stage in a store, without any value. */
export interface StoreEvent {
  /** As the store counts them. */
  readonly revision: string
  /** When it happened, as in RFC 3339; `null` where the store does not know. */
  readonly at: string | null
  /** Who did it; `null` where the store does not know. */
  readonly by: string | null
  /** The names of the variables, and what happened to each. */
  readonly names: readonly { readonly name: string; readonly what: 'added' | 'changed' | 'removed' }[]
}

/** What is known of the changes of a stage. */
export interface StoreHistory {
  /** The newest first. */
  readonly events: readonly StoreEvent[]
  /** True where there were older changes that the store has forgotten. */
  readonly isCut: boolean
}

/** An `AbortSignal`, wherever there are such. The core is compiled without any platform. */
export type EndingSignal = typeof globalThis extends { readonly AbortSignal: { readonly prototype: infer Signal } }
  ? Signal
  : never

/** What can be told a store that is asked for something. */
export interface StoreRequest {
  /** Ends the request; the store throws what the signal was ended with. */
  readonly signal?: EndingSignal
}

/** Who is told while a store is watched. */
export interface StoreWatcher {
  /** Is given the whole state after each change, none left out at the end: several changes may come as one. */
  readonly onState: (state: StoreState) => void
  /** Is told that the store can't be watched at the moment. The store goes on trying. */
  readonly onError: (error: unknown) => void
}

/**
 * A place in which many machines keep their values. Mappa reads it as a layer above the files and below the process environment.
 *
 * Implementations throw {@link StoreError} for what can go wrong; `checkStore` of `mappa-settings/testing` says whether one keeps its promises.
 */
export interface Store {
  /** What kind of store it is, in a word: `etcd`. */
  readonly id: string
  /** Which one, for people: `etcd fernhollow/dome-api`. Holds no user name and no password. */
  readonly describe: () => string
  /** True where programs get all their values from it, as those at a hosting service do; false where they have files as well. */
  readonly isWhole?: boolean
  /** Reads all that it holds for a stage. */
  readonly read: (stage: string, request?: StoreRequest) => Promise<StoreState>
  /**
   * Tells of every change after a state that was read.
   *
   * @returns a function that stops watching: nobody is told anything from then on
   */
  readonly watch?: (from: StoreState, watcher: StoreWatcher) => () => void
  /**
   * Carries out changes: all of them, or none. With `expected`, only if nobody changed the names among them, or added any, since that
   * state was read.
   *
   * @returns the revision of the change
   * @throws {StoreError} of the kind `conflict` where somebody did
   */
  readonly write?: (
    changes: readonly StoreChange[],
    expected: StoreState,
    request?: StoreRequest & { readonly by?: string },
  ) => Promise<string>
  /** Lists what changed, as far as the store knows. Never values. */
  readonly history?: (stage: string, request?: StoreRequest) => Promise<StoreHistory>
  /** Lets go of connections. */
  readonly close?: () => void
}
