import { StoreError } from './store-error.ts'

/** More names than these are counted, not listed. */
const MOST_NAMED = 5

/**
 * What a store throws that was changed since it was read.
 *
 * @param names those that were changed, as far as they are known
 */
export function reportConflict(names: readonly string[]): StoreError {
  if (names.length === 0) return new StoreError('conflict', 'the stage has another revision')
  const more = names.length > MOST_NAMED ? ` and ${names.length - MOST_NAMED} more` : ''
  return new StoreError('conflict', `${names.slice(0, MOST_NAMED).join(', ')}${more} changed`)
}
