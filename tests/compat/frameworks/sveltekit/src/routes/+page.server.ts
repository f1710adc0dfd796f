import { createHmac } from 'node:crypto'
import { settings } from 'virtual:mappa/server'

export const load = () => ({
  notice: settings.visitor.notice,
  slip: createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8),
})
