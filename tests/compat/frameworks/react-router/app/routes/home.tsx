import { createHmac } from 'node:crypto'
import { settings as shown } from 'virtual:mappa/browser'
import { settings } from '../settings.server.ts'

export function loader() {
  return {
    notice: settings.visitor.notice,
    slip: createHmac('sha256', settings.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8),
  }
}

export default function Home({ loaderData }: { loaderData: ReturnType<typeof loader> }) {
  return (
    <main>
      <p id="map">{shown.visitor.map}</p>
      <p id="notice">{loaderData.notice}</p>
      <p id="slip">{loaderData.slip}</p>
    </main>
  )
}
