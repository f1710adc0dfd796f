import { createHmac, timingSafeEqual } from 'node:crypto'
import type { StoreEntry, StoreState } from '@mappa/core/store/store'

/** True where a store holds a text: by its value, or by its keyed digest where the store keeps the value to itself. */
export function isHeld(entry: StoreEntry, text: string, { digestKey }: StoreState): boolean {
  if (entry.value !== null) return entry.value === text
  if (entry.digest === undefined || digestKey === undefined) return false
  const own = createHmac('sha256', digestKey).update(text, 'utf8').digest()
  return timingSafeEqual(own, Buffer.from(entry.digest, 'hex'))
}
