import { useEffect, useRef, useState } from 'react'
import { Button } from 'react-aria-components'
import type { StageStory, Story } from '../../views/story.ts'
import { ProblemItem } from '../app/ProblemItem.tsx'
import { EditDialog } from '../edit/EditDialog.tsx'
import type { PageSource } from '../source/page-source.ts'
import type { CellPlace } from '../table/SettingsTable.tsx'
import { Layers } from './Layers.tsx'
import { Readers } from './Readers.tsx'
import { References } from './References.tsx'
import { Rules } from './Rules.tsx'

interface StoryPanelProps {
  readonly place: CellPlace
  /** Another one means that something has changed. */
  readonly revision: number
  readonly source: PageSource
  readonly hasEditor: boolean
  readonly onStage: (stage: string) => void
  readonly onSetting: (setting: string) => void
  readonly onClose: () => void
}

/** Everything about one setting in one stage. */
export function StoryPanel({ place, revision, source, hasEditor, onStage, onSetting, onClose }: StoryPanelProps) {
  const [story, setStory] = useState<Story | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [isEditing, setIsEditing] = useState(false)
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    let isOpen = true
    source.story(place.setting).then(
      (found) => {
        if (!isOpen) return
        setStory(found)
        setError(null)
      },
      (reason: Error) => {
        if (!isOpen) return
        setStory(null)
        setError(reason.message || 'There is no such setting any more.')
      },
    )
    return () => {
      isOpen = false
    }
  }, [source, place.setting, revision])
  const isKnown = story !== null
  useEffect(() => {
    if (isKnown) heading.current?.focus()
  }, [isKnown])
  const own = story?.stages.find(({ stage }) => stage === place.stage)
  return (
    <aside
      className="story"
      aria-label="Story of the setting"
      onKeyDown={({ key }) => {
        if (key === 'Escape' && !isEditing) onClose()
      }}
    >
      <div className="story__top">
        <h2 ref={heading} tabIndex={-1}>
          {story?.name ?? place.setting}
        </h2>
        <Button className="button button--quiet" aria-label="Close the story" onPress={onClose}>
          ✕
        </Button>
      </div>
      {story === null || own === undefined ? (
        <p className="wait">{error ?? 'Reading …'}</p>
      ) : (
        <StoryBody
          story={story}
          own={own}
          open={hasEditor ? source.open : null}
          onStage={onStage}
          onSetting={onSetting}
          onEdit={source.editing === null ? null : () => setIsEditing(true)}
        />
      )}
      {isEditing && story !== null && source.editing !== null ? (
        <EditDialog story={story} stage={place.stage} editing={source.editing} onClose={() => setIsEditing(false)} />
      ) : null}
    </aside>
  )
}

interface StoryBodyProps {
  readonly story: Story
  /** The story in the stage that is shown. */
  readonly own: StageStory
  readonly open: PageSource['open']
  readonly onStage: (stage: string) => void
  readonly onSetting: (setting: string) => void
  /** `null` where values can't be set. */
  readonly onEdit: (() => void) | null
}

function StoryBody({ story, own, open, onStage, onSetting, onEdit }: StoryBodyProps) {
  const { description, kind, path, readers, secret, stages } = story
  return (
    <>
      <p className="story__kind">
        <code>{path}</code> · {kind}
        {secret ? ' · secret' : ''}
        {story.public ? ' · public' : ''}
      </p>
      <p>{description}</p>
      <div className="story__line">
        <label className="select">
          <span>In</span>
          <select value={own.stage} onChange={({ target }) => onStage(target.value)}>
            {stages.map(({ stage }) => (
              <option key={stage}>{stage}</option>
            ))}
          </select>
        </label>{' '}
        {onEdit === null ? null : (
          <Button className="button" onPress={onEdit}>
            Set a value
          </Button>
        )}
      </div>
      {own.problems.length === 0 ? null : (
        <ul className="problems">
          {own.problems.map((each) => (
            <ProblemItem key={`${each.code} ${each.message}`} problem={each} />
          ))}
        </ul>
      )}
      <Layers story={own} open={open} />
      {own.conversion === null ? null : (
        <p className="story__line">
          The text {own.conversion.text} is read as <b>{own.conversion.value}</b>.
        </p>
      )}
      <References story={own} open={open} onSetting={onSetting} />
      <Rules rules={own.rules} />
      <Age story={own} />
      <Readers readers={readers} open={open} />
    </>
  )
}

function Age({ story: { age } }: { readonly story: StageStory }) {
  if (age === null) return null
  const { setOn, days, due, overdue } = age
  if (setOn === null) return <p className="story__line">Its file does not say when it was set.</p>
  return (
    <p className="story__line">
      Set on {setOn}, {days} day{days === 1 ? '' : 's'} ago.
      {due === null ? null : (
        <span className={overdue ? 'badge badge--notice' : ''}>
          {' '}
          {overdue ? 'Overdue since' : 'To be rotated by'} {due}
        </span>
      )}
    </p>
  )
}
