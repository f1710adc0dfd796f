/**
 * `mappa-settings/node`: settings of a program that runs on Node.
 *
 * @module mappa-settings/node
 */
export { type FetchOptions, fetchSettings, type StoreOptions } from './load/fetch.ts'
export { type Inspection, inspectSettings, type SourceOptions } from './load/inspect.ts'
export { type LoadOptions, loadSettings, stageOf } from './load/load.ts'
export { watchSettings } from './load/watch.ts'
export type { OnChange, SettingChange, WatchedSettings, WatchOptions, WatchStoreOptions } from './load/watching.ts'
export { fillPages } from './page/fill-pages.ts'
export type { LastGoodOptions } from './store/last-good.ts'
