import { Button } from 'react-aria-components'
import type { StageStory } from '../../views/story.ts'
import { FileLink } from '../app/FileLink.tsx'

interface ReferencesProps {
  readonly story: StageStory
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
  readonly onSetting: (setting: string) => void
}

/** What the value refers to. */
export function References({ story: { references }, open, onSetting }: ReferencesProps) {
  if (references.length === 0) return null
  return (
    <section>
      <h3>Refers to</h3>
      <ul className="plain">
        {references.map(({ name, setting, place, file, line, shown }) => (
          <li key={name}>
            {setting === null ? (
              <code>{name}</code>
            ) : (
              <Button className="link" onPress={() => onSetting(setting)}>
                <code>{name}</code>
              </Button>
            )}{' '}
            {shown ?? 'not set'}{' '}
            {place === null ? null : <FileLink place={place} file={file} line={line} open={open} />}
          </li>
        ))}
      </ul>
    </section>
  )
}
