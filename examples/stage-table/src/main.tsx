import { createRoot } from 'react-dom/client'
import '../../../packages/mappa-cli/src/web/style/page.css'
import './drop.css'
import { DropPage } from './DropPage.tsx'

createRoot(document.getElementById('page')!).render(<DropPage />)
