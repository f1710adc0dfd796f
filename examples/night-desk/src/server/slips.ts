import { createHmac } from 'node:crypto'
import { settings } from 'virtual:mappa/server'

/** A booking slip: the name of a visitor, and a seal that only the desk can make. */
export function slipFor(visitor: string): string {
  const seal = createHmac('sha256', settings.desk.key.reveal()).update(visitor).digest('hex').slice(0, 8)
  return `Slip for ${visitor}: ${seal.toUpperCase()}`
}
