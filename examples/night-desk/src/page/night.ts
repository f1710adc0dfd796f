import { settings } from 'virtual:mappa/browser'
import { useEffect, useState } from 'react'

/** What the dome service says of tonight. */
export interface Night {
  readonly places: number
  readonly closed: string | null
}

/** Tonight, asked for again and again; a text where the dome service does not answer. */
export function useNight(): Night | string | null {
  const [night, setNight] = useState<Night | string | null>(null)
  useEffect(() => {
    const look = () => ask().then(setNight, () => setNight('The dome service does not answer.'))
    look()
    const timer = setInterval(look, settings.visitor.refresh)
    return () => clearInterval(timer)
  }, [])
  return night
}

async function ask(): Promise<Night> {
  const answer = await fetch(new URL('/night', settings.visitor.apiUrl))
  if (!answer.ok) throw new Error(`the dome service answered ${answer.status}`)
  return answer.json()
}
