import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Desk } from './desk.tsx'
import './desk.css'

createRoot(document.getElementById('desk')!).render(
  <StrictMode>
    <Desk />
  </StrictMode>,
)
