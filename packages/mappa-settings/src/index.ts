/**
 * `mappa-settings`: what needs neither files nor Node. Runs in a browser as well.
 *
 * @module mappa-settings
 */
export * from '@mappa/core'
