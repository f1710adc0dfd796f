import type { ReadersView } from '../../views/story.ts'
import { FileLink } from '../app/FileLink.tsx'

/** So many places are listed; the rest are counted. */
const MOST_LISTED = 12

interface ReadersProps {
  readonly readers: ReadersView | null
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
}

/** Where the code reads a setting. */
export function Readers({ readers, open }: ReadersProps) {
  if (readers === null) return null
  const { places, notRead } = readers
  return (
    <section>
      <h3>Read by</h3>
      {places.length === 0 ? <p className="story__line">No place in the code was found that reads it.</p> : null}
      <ul className="plain">
        {places.slice(0, MOST_LISTED).map(({ file, line, column, text }) => (
          <li key={`${file}:${line}:${column}`}>
            <FileLink place={`${file}:${line}`} file={file} line={line} open={open} /> <code>{text}</code>
          </li>
        ))}
      </ul>
      {places.length > MOST_LISTED ? (
        <p className="story__line">and {places.length - MOST_LISTED} more places.</p>
      ) : null}
      {notRead.length > 0 ? (
        <p className="story__line">
          Not read: {notRead.slice(0, MOST_LISTED).join(', ')}
          {notRead.length > MOST_LISTED ? ` and ${notRead.length - MOST_LISTED} more files` : ''}.
        </p>
      ) : null}
    </section>
  )
}
