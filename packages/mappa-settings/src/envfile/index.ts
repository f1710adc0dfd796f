/**
 * `mappa-settings/envfile`: reads and edits the text of env files without losing anything. Runs on Node and in browsers.
 *
 * @module mappa-settings/envfile
 */
export * from '@mappa/core/envfile'
