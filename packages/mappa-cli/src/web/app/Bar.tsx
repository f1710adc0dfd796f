import { useState } from 'react'
import { Button, ToggleButton, ToggleButtonGroup } from 'react-aria-components'
import type { PageSource } from '../source/page-source.ts'
import { Link } from './NewLink.tsx'

/** What the page shows. */
export type View = 'settings' | 'code'

interface BarProps {
  readonly project: string
  readonly isLost: boolean
  readonly view: View
  readonly onView: (view: View) => void
  readonly source: PageSource
}

/** The bar above everything: the project, what is shown, and whether the page is up to date. */
export function Bar({ project, isLost, view, onView, source }: BarProps) {
  const [link, setLink] = useState<string | null>(null)
  return (
    <header className="bar">
      <h1 className="bar__name">
        Mappa <span className="bar__project">{project}</span>
      </h1>
      {source.code === null ? null : (
        <ToggleButtonGroup
          className="choice"
          aria-label="View"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[view]}
          onSelectionChange={(keys) => onView([...keys][0] as View)}
        >
          <ToggleButton id="settings" className="choice__one">
            Settings
          </ToggleButton>
          <ToggleButton id="code" className="choice__one">
            In the code
          </ToggleButton>
        </ToggleButtonGroup>
      )}
      <span className="bar__rest" />
      <span role="status" className={isLost ? 'live live--lost' : 'live'}>
        {isLost ? 'Not connected: the command has ended' : 'Up to date'}
      </span>
      {source.newLink === null || isLost ? null : (
        <Button className="button button--quiet" onPress={() => void source.newLink?.().then(setLink)}>
          Another window
        </Button>
      )}
      {link === null ? null : <Link link={link} onClose={() => setLink(null)} />}
    </header>
  )
}
