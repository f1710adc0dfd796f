import type { Layer } from '@mappa/core/layers/layer'
import { STORE_LAYER } from '@mappa/core/layers/order'
import type { Source } from '@mappa/core/layers/source'
import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'

/** Shorter keys are guessed too easily, in characters. */
const SHORTEST_KEY = 16

/** A layer of a store that was read already, as a source. */
export function storeSource(layer: Layer): Source {
  return { id: STORE_LAYER, kind: 'store', read: () => layer }
}

/**
 * Checks the options about a store.
 *
 * @throws {SettingsError} naming everything that is wrong
 */
export function mustBeStore(given: unknown, where: string): void {
  const { store, timeout, lastGood } = given as { store?: unknown; timeout?: unknown; lastGood?: unknown }
  const problems: Problem[] = []
  const wrong = (option: string, fault: string, fix: string) => {
    problems.push(storeProblem('store-option-wrong', { option, where, fault, fix }))
  }
  const { read, describe } = (store ?? {}) as { read?: unknown; describe?: unknown }
  if (typeof read !== 'function' || typeof describe !== 'function')
    wrong(
      'store',
      'must be a store',
      'Give it what etcdStore of mappa-settings/etcd returned, or an implementation of Store.',
    )
  if (timeout !== undefined && !(typeof timeout === 'number' && timeout > 0 && Number.isFinite(timeout)))
    wrong('timeout', 'must be a number of milliseconds', 'Write, for example, 5000.')
  const { file, key } = (lastGood ?? {}) as { file?: unknown; key?: unknown }
  if (lastGood !== undefined && (typeof file !== 'string' || typeof key !== 'string' || key.length < SHORTEST_KEY))
    wrong(
      'lastGood',
      `must have a file, and a key of at least ${SHORTEST_KEY} characters`,
      'Take the key from where the program has its other secrets.',
    )
  if (problems.length > 0) throw new SettingsError({ title: 'The store', stage: null, problems })
}
