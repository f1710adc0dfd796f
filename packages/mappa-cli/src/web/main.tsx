import { createRoot } from 'react-dom/client'
import { App } from './app/App.tsx'
import { Closed } from './app/Closed.tsx'
import { serverSource } from './source/server.ts'
import { startSession } from './source/session.ts'

const root = createRoot(document.getElementById('page')!)
const session = await startSession()
if ('key' in session) root.render(<App source={serverSource(session.key)} />)
else root.render(<Closed why={session.why} />)
