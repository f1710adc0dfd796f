import { createHmac } from 'node:crypto'
import { settings } from '../settings.ts'

export default defineEventHandler(() => ({
  notice: settings.visitor.notice,
  slip: createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8),
}))
