import type { Store, StoreState, StoreWatcher } from '@mappa/core/store/store'

/** How often a store is read that does not tell of changes, in milliseconds. */
const INTERVAL = 30_000
/** A store that fails is told of again after so long, in milliseconds. */
const TOLD_AGAIN = 60_000

/**
 * Watches a store, or reads it again and again where it does not tell of changes. What fails again and again is told once a minute.
 *
 * @returns a function that stops watching
 */
export function watchStore(store: Store, from: StoreState, { onState, onError }: StoreWatcher): () => void {
  let told = Number.NEGATIVE_INFINITY
  const watcher = {
    onState,
    onError(error: unknown) {
      if (performance.now() - told < TOLD_AGAIN) return
      told = performance.now()
      onError(error)
    },
  }
  if (store.watch !== undefined) return store.watch(from, watcher)
  const timer = setInterval(() => void store.read(from.stage).then(onState, watcher.onError), INTERVAL)
  return () => clearInterval(timer)
}
