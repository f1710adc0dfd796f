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
} from '../core/store/store.ts'
export { isStoreError, StoreError, type StoreErrorKind } from '../core/store/store-error.ts'
export type { TlsOptions } from '../node/http/send.ts'
export { openStore } from './configured.ts'
export { type HttpStoreOptions, httpStore } from './http-store.ts'
export { inspectWithStore } from './inspect.ts'
