import pg from 'pg'
import { createClient } from 'redis'

export const pool = new pg.Pool({
  host: 'nights-db.fernhollow.example', // planted: 1
  port: 5433, // planted: 1
  user: 'observer',
  password: 'Lantern-Moth-88!', // planted: 1
  database: 'nights',
  max: 20,
  ssl: { rejectUnauthorized: true },
})
export const cache = createClient({ url: 'redis://cache.fernhollow.example:6379/2' }) // planted: 1
export const TABLES = { visitors: 'visitors', nights: 'nights' }
const QUERY = 'select id, password_hash from visitors where token = $1'
