import type { Definition, ProgramOf, Values } from '@mappa/core/definition/definition'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import { problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { inspectSettings } from './inspect.ts'
import {
  type OnChange,
  WATCH_OPTIONS,
  type WatchedSettings,
  Watching,
  type WatchOptions,
  type WatchStoreOptions,
} from './watching.ts'

/**
 * Loads settings and reads them again whenever a layer file changes, comes or goes. With a store, also whenever that changes: each
 * change arrives whole, and as long as the store can't be reached, the last good values stay.
 *
 * @param onChange is given the new values and what is different; not called where nothing is
 * @returns the settings; with a store, a promise of them
 * @throws {SettingsError} where the settings are wrong to begin with, or `onChange` is no function
 * @example
 * ```ts
 * const settings = watchSettings(definition, (now, changes) => {
 *   for (const { name, before, after } of changes) console.log(`${name}: ${before} is ${after} now`)
 *   open(now.night.places)
 * })
 * settings.current.night.places
 * ```
 */
export function watchSettings<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  onChange: OnChange<D, Program>,
  options: WatchStoreOptions<Program>,
): Promise<WatchedSettings<D, Values<D, Program>>>
export function watchSettings<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  onChange: OnChange<D, Program>,
  options?: WatchOptions<Program>,
): WatchedSettings<D, Values<D, Program>>
export function watchSettings(
  definition: Definition,
  onChange: unknown,
  options: WatchOptions | WatchStoreOptions = {},
): unknown {
  mustBeFunction(onChange)
  if (typeof options === 'object' && options !== null && 'store' in options)
    return import('./watch-store.ts').then((it) => it.watchStored(definition, onChange, options))
  checkOptionNames(options, WATCH_OPTIONS, 'watchSettings')
  const { onProblems, ...sources } = options
  return new Watching(definition, onChange, onProblems, inspectSettings(definition, sources), ({ root, stage }) =>
    inspectSettings(definition, { ...sources, root, stage }),
  ).watchFiles(options)
}

/** Options in its place would be ignored, and another project might be watched. */
function mustBeFunction(onChange: unknown): asserts onChange is OnChange<Definition> {
  if (typeof onChange === 'function') return
  const found = typeof onChange === 'object' && onChange !== null ? 'an object' : String(typeof onChange)
  throw settingsError(problem('callback-wrong', { found }))
}
