/**
 * `mappa/testing`: settings for tests, without files and without the environment.
 *
 * @packageDocumentation
 */
export { type GivenValues, type SettingPath, settingsFor, type TestOptions } from './settings-for.ts'
