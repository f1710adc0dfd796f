/**
 * `mappa-settings/store`: what a store is that many machines share, and one over HTTP for services that keep the settings of programs.
 *
 * @module mappa-settings/store
 */
export type {
  Store,
  StoreChange,
  StoreEntry,
  StoreEvent,
  StoreHistory,
  StoreRequest,
  StoreState,
  StoreWatcher,
} from '@mappa/core/store/store'
export { isStoreError, StoreError, type StoreErrorKind } from '@mappa/core/store/store-error'
export type { TlsOptions } from '@mappa/node/http/send'
export { openStore } from '@mappa/node/stores/configured'
export { type HttpStoreOptions, httpStore } from '@mappa/node/stores/http/http-store'
export { inspectWithStore } from '@mappa/node/stores/inspect'
