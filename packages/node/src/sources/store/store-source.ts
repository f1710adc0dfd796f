import type { Layer } from '@mappa/core/layers/layer'
import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import type { Problem } from '@mappa/core/problems/problem'
import { storeLayer, unreadStoreLayer } from '@mappa/core/store/layer'
import type { Store, StoreState } from '@mappa/core/store/store'
import { keepLastGood, type LastGoodOptions, measureAge, openLastGood } from './last-good.ts'
import { type ReadLimits, readStore, Unread } from './read-store.ts'

/** What was read of a store: its layer, and the state it was made of. */
export interface StoreReading {
  readonly layer: Layer
  /** `null` where it could not be read, and nothing was kept. */
  readonly state: StoreState | null
  /** True where the state is one that was kept. */
  readonly isKept: boolean
}

/** How a store is read. */
export interface StoreReadOptions extends ReadLimits {
  readonly lastGood?: LastGoodOptions
}

/** Reads a store as a layer. What is wrong is among the problems of the layer. */
export async function readStoreLayer(store: Store, stage: string, options: StoreReadOptions): Promise<StoreReading> {
  try {
    const state = await readStore(store, stage, options)
    return { layer: storeLayer(store.describe(), state), state, isKept: false }
  } catch (error) {
    if (!(error instanceof Unread)) throw error
    return fallBack(error, store, stage, options)
  }
}

function fallBack(error: Unread, store: Store, stage: string, { lastGood: options }: StoreReadOptions): StoreReading {
  const described = store.describe()
  // Somebody who may not read it any more gets nothing that was kept either.
  const kept = options === undefined || !error.isNoAnswer ? null : openLastGood(options, described, stage)
  if (kept === null || !('state' in kept)) {
    const problems: Problem[] = kept === null ? [error.problem] : [error.problem, kept]
    return { layer: unreadStoreLayer(described, stage, problems), state: null, isKept: false }
  }
  const notice = storeProblem('store-last-good', { store: described, reason: error.reason, age: measureAge(kept.at) })
  return { layer: storeLayer(described, kept.state, [notice]), state: kept.state, isKept: true }
}

/** Keeps what was read, if that was asked for and the settings are good. */
export function keep(
  store: Store,
  { state, isKept }: StoreReading,
  options: LastGoodOptions | undefined,
): readonly Problem[] {
  if (options === undefined || state === null || isKept) return []
  const problem = keepLastGood(options, store.describe(), state)
  return problem === null ? [] : [problem]
}
