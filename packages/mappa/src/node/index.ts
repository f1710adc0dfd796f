/**
 * `mappa/node`: settings of a program that runs on Node.
 *
 * @packageDocumentation
 */
export {
  type Inspection,
  inspectSettings,
  type LoadOptions,
  loadSettings,
  type SourceOptions,
  stageOf,
} from './load/load.ts'
export { type SettingChange, type WatchedSettings, type WatchOptions, watchSettings } from './load/watch.ts'
export { fillPages } from './page/fill-pages.ts'
