import type { Definition, ProgramOf, Values } from '@mappa/core/definition/definition'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import type { Store } from '@mappa/core/store/store'
import type { LastGoodOptions } from '../sources/store/last-good.ts'
import { chooseOptionStage, inspectStage, mustBeDefinition } from './inspect.ts'
import { chooseSources, failOrExit, LOAD_OPTIONS, type LoadOptions, valuesOrThrow } from './load.ts'

/** How a store is read. */
export interface StoreOptions {
  /** The store, such as one of `mappa-settings/etcd`. Its values are above those of files, and below the process environment. */
  readonly store: Store
  /**
   * How long the program waits for the store, in milliseconds.
   * @default 5000
   */
  readonly timeout?: number
  /**
   * Where to keep the last good values, which are used when the store can't be reached.
   * @default nothing is kept
   */
  readonly lastGood?: LastGoodOptions
}

/** Options of {@link fetchSettings}. */
export interface FetchOptions<Program extends string = string> extends LoadOptions<Program>, StoreOptions {
  /** Ends the waiting for the store; `fetchSettings` throws what it was ended with. */
  readonly signal?: AbortSignal
}

const FETCH_OPTIONS = [...LOAD_OPTIONS, 'store', 'timeout', 'lastGood', 'signal'] as const

/**
 * Loads the settings of a program as `loadSettings` does, from a store as well.
 *
 * @param definition what `defineSettings` made
 * @throws {SettingsError} with everything that is wrong, unless `onErrors` says to exit
 * @example
 * ```ts
 * import { etcdStore } from 'mappa-settings/etcd'
 * import { fetchSettings } from 'mappa-settings/node'
 * import definition from './settings.definition.ts'
 *
 * const store = etcdStore({ endpoints: ['http://127.0.0.1:2379'], prefix: 'fernhollow/dome-api' })
 * export const settings = await fetchSettings(definition, { store })
 * ```
 */
export function fetchSettings<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  options: FetchOptions<Program>,
): Promise<Values<D, Program>>
export async function fetchSettings(definition: Definition, options: FetchOptions): Promise<unknown> {
  try {
    checkOptionNames(options, FETCH_OPTIONS, 'fetchSettings')
    mustBeDefinition(definition, 'fetchSettings')
    const { store, timeout, lastGood, signal, ...others } = options
    const { keep, readStoreLayer, storeSource, TIMEOUT, mustBeStore } = await import('../sources/store/index.ts')
    mustBeStore(options, 'fetchSettings')
    const sources = chooseSources(definition, others)
    const stage = chooseOptionStage(definition, sources)
    const limits = { timeout: timeout ?? TIMEOUT, ...(signal === undefined ? {} : { signal }) }
    const reading = await readStoreLayer(store, stage.stage, {
      ...limits,
      ...(lastGood === undefined ? {} : { lastGood }),
    })
    const inspection = inspectStage(definition, stage, sources, [storeSource(reading.layer)])
    const kept = inspection.values === null ? [] : keep(store, reading, lastGood)
    return valuesOrThrow({ ...inspection, problems: [...inspection.problems, ...kept] }, options)
  } catch (error) {
    return failOrExit(error, options)
  }
}
