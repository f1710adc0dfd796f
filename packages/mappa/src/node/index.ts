/**
 * `mappa/node`: settings of a program that runs on Node.
 *
 * @packageDocumentation
 */
export { type FetchOptions, fetchSettings, type StoreOptions } from './load/fetch.ts'
export {
  type Inspection,
  inspectSettings,
  type LoadOptions,
  loadSettings,
  type SourceOptions,
  stageOf,
} from './load/load.ts'
export {
  type OnChange,
  type SettingChange,
  type WatchedSettings,
  type WatchOptions,
  type WatchStoreOptions,
  watchSettings,
} from './load/watch.ts'
export { fillPages } from './page/fill-pages.ts'
export type { LastGoodOptions } from './store/last-good.ts'
