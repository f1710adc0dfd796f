import React, { useEffect } from 'react'
import { initializeApp } from 'push-kit'

const app = initializeApp({
  apiKey: 'AIfern9_x7Qk2Zm4Vt8Rn3Wc6Yp1HdJ5', // planted: 1
  authDomain: 'fernhollow.example', // planted: 1
  projectId: 'night-desk',
})
const MAP_TOKEN = 'pk.fern1Qz8Lm4Vt7Rn3Wc6Yp' // planted: 1

export function StarMap({ title = 'Star map' }: { title?: string }) {
  useEffect(() => {
    fetch(`https://maps.fernhollow.example/tiles?access_token=${MAP_TOKEN}`).then(console.log) // planted: 1
  }, [])
  return (
    <div className="star-map dark:bg-slate-900" role="img" aria-label="Map of tonight's sky">
      <a href="https://fernhollow.example/about">{title}</a>
      <input type="password" name="password" placeholder="Password" autoComplete="current-password" />
    </div>
  )
}
export default app
