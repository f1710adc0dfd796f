import { createHmac } from 'node:crypto'
import { connection } from 'next/server'
import { settings } from '../settings.ts'
import { Desk } from './desk.tsx'

export default async function Page() {
  // Rendered for each request: runtime settings are those of the server that answers.
  await connection()
  const slip = createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8)
  return (
    <main>
      <Desk notice={settings.visitor.notice} />
      <p id="slip">{slip}</p>
    </main>
  )
}
