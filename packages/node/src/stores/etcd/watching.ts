import type { StoreEntry, StoreState, StoreWatcher } from '@mappa/core/store/store'
import { isVariableName } from '@mappa/core/text/variable-name'
import { pause } from '../../sources/store/pause.ts'
import type { Answer } from './answer.ts'
import type { Gateway } from './gateway.ts'
import type { Keys } from './keys.ts'
import { type KeyValue, readStage, toEntry } from './reading.ts'

/** How long a member may say nothing before it is asked whether it is behind, in milliseconds. */
const SILENCE = 10_000

/** A change of one key, as the gateway writes it. */
export interface KeyEvent {
  readonly type?: 'PUT' | 'DELETE'
  readonly kv: KeyValue
}

/**
 * Watches a stage from a state on.
 *
 * @returns a function that stops watching
 */
export function watchStage(gateway: Gateway, keys: Keys, from: StoreState, watcher: StoreWatcher): () => void {
  const watch = new Watch(gateway, keys, from, watcher)
  watch.run().catch((error: unknown) => watcher.onError(error))
  return () => watch.stop()
}

class Watch {
  readonly #gateway: Gateway
  readonly #keys: Keys
  readonly #watcher: StoreWatcher
  readonly #over = new AbortController()
  #state: StoreState
  /** Ends the present connection. */
  #connection = new AbortController()
  #failures = 0

  constructor(gateway: Gateway, keys: Keys, from: StoreState, watcher: StoreWatcher) {
    this.#gateway = gateway
    this.#keys = keys
    this.#state = from
    this.#watcher = watcher
  }

  stop(): void {
    this.#over.abort()
    this.#connection.abort()
  }

  async run(): Promise<void> {
    while (!this.#over.signal.aborted) {
      try {
        await this.#connect()
        // A member that shuts down ends the answer; another one goes on.
        this.#gateway.turn()
      } catch (error) {
        if (this.#over.signal.aborted) return
        // Nobody is told while there is another member to ask.
        if (error !== BEHIND && this.#failures + 1 >= this.#gateway.size) this.#watcher.onError(error)
      }
      this.#failures++
      await pause(this.#failures, this.#over.signal)
    }
  }

  async #connect(): Promise<void> {
    this.#connection = new AbortController()
    const { signal } = this.#connection
    const { stage, revision } = this.#state
    const silence = setInterval(() => void this.#checkSilence(), SILENCE)
    silence.unref()
    this.#lastHeard = Date.now()
    const range = { ...this.#keys.range(stage), start_revision: String(BigInt(revision) + 1n), progress_notify: true }
    try {
      await this.#gateway.stream('watch', { create_request: range }, (answer) => this.#take(answer), { signal })
    } catch (error) {
      if (!this.#isForgotten) throw error
    } finally {
      clearInterval(silence)
    }
    if (this.#isForgotten) await this.#readAgain()
  }

  #lastHeard = 0
  #isForgotten = false

  #take(answer: Answer): void {
    if (this.#over.signal.aborted) return
    this.#lastHeard = Date.now()
    if (answer.canceled === true) {
      // Changes between are forgotten already: what there is now counts.
      this.#isForgotten = answer.compact_revision !== undefined
      // Or the member has lost its leader: another one may have it.
      if (!this.#isForgotten) this.#gateway.turn()
      this.#connection.abort(BEHIND)
      return
    }
    this.#failures = 0
    const events = (answer.events ?? []) as readonly KeyEvent[]
    if (events.length > 0) this.#tell(applyEvents(this.#keys, this.#state, events))
  }

  /** Asks whether a member that says nothing has missed something: one that was cut off from the others does. */
  async #checkSilence(): Promise<void> {
    if (Date.now() - this.#lastHeard < SILENCE) return
    const connection = this.#connection
    const heard = this.#lastHeard
    try {
      const now = await readStage(this.#gateway, this.#keys, this.#state.stage, { signal: this.#over.signal })
      // What came meanwhile is newer.
      if (connection.signal.aborted || this.#lastHeard !== heard || !isOther(now, this.#state)) return
      // Told here rather than by watching from where the silence began: the cluster may have been set up anew.
      this.#tell(now)
    } catch {
      // The next member may know more.
    }
    this.#gateway.turn()
    connection.abort(BEHIND)
  }

  async #readAgain(): Promise<void> {
    const { stage } = this.#state
    const now = await readStage(this.#gateway, this.#keys, stage, { signal: this.#over.signal })
    this.#isForgotten = false
    if (isOther(now, this.#state)) this.#tell(now)
    else this.#state = now
  }

  #tell(state: StoreState): void {
    this.#state = state
    try {
      this.#watcher.onState(state)
    } catch (error) {
      // A fault of the program, and none of the connection.
      queueMicrotask(() => {
        throw error
      })
    }
  }
}

/** Why a connection is given up that has missed something. */
const BEHIND = new Error('behind')

/** A state after some events, which hold whole changes. */
function applyEvents(
  keys: Keys,
  { stage, entries, oddKeys = [] }: StoreState,
  events: readonly KeyEvent[],
): StoreState {
  const after = new Map<string, StoreEntry>(entries)
  const odd = new Set(oddKeys)
  for (const { type, kv } of events) {
    const name = keys.findName(stage, kv.key)
    if (name === null) continue
    if (!isVariableName(name)) odd[type === 'DELETE' ? 'delete' : 'add'](name)
    else if (type === 'DELETE') after.delete(name)
    else after.set(name, toEntry(kv))
  }
  // Further changes may be on their way already, so that the revision of the store itself says too much.
  return { stage, revision: events.at(-1)!.kv.mod_revision, entries: after, oddKeys: [...odd] }
}

/** True where two states differ, or the newer one has the older revision: then the store was set up anew. */
function isOther({ entries, revision }: StoreState, before: StoreState): boolean {
  if (BigInt(revision) < BigInt(before.revision)) return true
  if (entries.size !== before.entries.size) return true
  return [...entries].some(([name, each]) => before.entries.get(name)?.revision !== each.revision)
}
