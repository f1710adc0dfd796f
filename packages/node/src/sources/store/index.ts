/** What is loaded only by programs that have a store. */
export { mustBeStore, storeSource } from './checked.ts'
export { readStore, reportUnread as unreadProblem, TIMEOUT, Unread } from './read-store.ts'
export { keep, readStoreLayer } from './store-source.ts'
export { watchStore } from './watch-store.ts'
