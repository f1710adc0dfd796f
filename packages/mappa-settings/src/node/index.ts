/**
 * `mappa-settings/node`: settings of a program that runs on Node.
 *
 * @module mappa-settings/node
 */
export { type FetchOptions, fetchSettings, type StoreOptions } from '@mappa/node/load/fetch'
export { type Inspection, inspectSettings, type SourceOptions } from '@mappa/node/load/inspect'
export { type LoadOptions, loadSettings, stageOf } from '@mappa/node/load/load'
export { watchSettings } from '@mappa/node/load/watch'
export type {
  OnChange,
  SettingChange,
  WatchedSettings,
  WatchOptions,
  WatchStoreOptions,
} from '@mappa/node/load/watching'
export { fillPages } from '@mappa/node/page/fill-pages'
export { findProjectRoot } from '@mappa/node/project/root'
export type { LastGoodOptions } from '@mappa/node/sources/store/last-good'
