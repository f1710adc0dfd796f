/**
 * `mappa-settings/derive`: what follows from a definition, as text or as a schema: the example file, types, the reference, JSON Schema.
 * Runs on Node and in browsers.
 *
 * @module mappa-settings/derive
 */
export * from '@mappa/core/derive'
