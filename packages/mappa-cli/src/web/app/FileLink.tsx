import { useState } from 'react'
import { Button } from 'react-aria-components'

interface FileLinkProps {
  /** What a person calls the place. */
  readonly place: string
  readonly file: string | null
  readonly line: number | null
  /** Opens it; `null` where nothing can. */
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
}

/** The place of something in a file, which opens in the editor where there is one. */
export function FileLink({ place, file, line, open }: FileLinkProps) {
  const [failed, setFailed] = useState(false)
  if (file === null || open === null) return <span className="place">{place}</span>
  return (
    <Button
      className="link place"
      aria-label={`Open ${place} in the editor`}
      onPress={() => void open(file, line ?? 1).then((opened) => setFailed(!opened))}
    >
      {place}
      {failed ? <span role="alert"> (there is no such file yet)</span> : null}
    </Button>
  )
}
