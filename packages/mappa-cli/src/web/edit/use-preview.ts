import { useEffect, useState } from 'react'
import type { Edit, EditPreview } from '../../views/page.ts'
import type { EditingSource } from '../source/page-source.ts'

/** So long nothing is typed before the change is worked out, in milliseconds. */
const PAUSE_MS = 120

/** What an edit would do, worked out shortly after each change of it; `null` until it is. */
export function usePreview(
  editing: EditingSource,
  edit: Edit,
): { readonly preview: EditPreview | null; readonly error: string | null; readonly again: () => void } {
  const [preview, setPreview] = useState<EditPreview | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [round, setRound] = useState(0)
  const { setting, stage, local, text } = edit
  useEffect(() => {
    // What was worked out for another value must not be written with this one.
    setPreview(null)
    setError(null)
    if (text === '' && round === 0) return
    let isWanted = true
    const timer = setTimeout(() => {
      editing.preview({ setting, stage, local, text }).then(
        (found) => isWanted && setPreview(found),
        (reason: Error) => isWanted && setError(reason.message),
      )
    }, PAUSE_MS)
    return () => {
      isWanted = false
      clearTimeout(timer)
    }
  }, [editing, setting, stage, local, text, round])
  return { preview, error, again: () => setRound((before) => before + 1) }
}
