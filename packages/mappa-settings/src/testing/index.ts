/**
 * `mappa-settings/testing`: settings for tests, without files and without the environment; and what a store has to keep.
 *
 * @module mappa-settings/testing
 */
export { checkStore, type StoreCheck, type StorePromise } from './check-store.ts'
export { type GivenValues, type SettingPath, settingsFor, type TestOptions } from './settings-for.ts'
