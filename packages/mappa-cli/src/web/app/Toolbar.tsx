import { useEffect, useRef } from 'react'
import { Button, Input, Label, SearchField, ToggleButton } from 'react-aria-components'
import type { Overview } from '../../views/overview.ts'
import type { Changes } from '../table/changes.ts'
import { type Filters, NO_FILTERS } from '../table/filters.ts'

interface ToolbarProps {
  readonly overview: Overview
  readonly filters: Filters
  readonly changes: Changes
  /** False where nothing is said of changes. */
  readonly marksChanges: boolean
  /** How many rows are shown. */
  readonly shown: number
  readonly onChange: (filters: Filters) => void
}

/** Search and filters. */
export function Toolbar({ overview, filters, changes, marksChanges, shown, onChange }: ToolbarProps) {
  const search = useRef<HTMLInputElement>(null)
  useEffect(() => {
    const focus = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.ctrlKey || event.metaKey || isTyping(event.target)) return
      event.preventDefault()
      search.current?.focus()
    }
    document.addEventListener('keydown', focus)
    return () => document.removeEventListener('keydown', focus)
  }, [])
  const rows = overview.groups.flatMap((group) => group.rows)
  const count = {
    problems: rows.filter(({ cells }) => cells.some(({ severity }) => severity !== null)).length,
    secrets: rows.filter(({ secret }) => secret).length,
    changed: changes.size,
  }
  const toggles = [
    ['problems', 'Problems'],
    ['secrets', 'Secrets'],
    ['changed', 'Changed'],
  ] as const
  const isFiltered = JSON.stringify(filters) !== JSON.stringify(NO_FILTERS)
  return (
    <div className="toolbar" role="toolbar" aria-label="Filters">
      <SearchField className="search" value={filters.query} onChange={(query) => onChange({ ...filters, query })}>
        <Label className="hidden">Search settings</Label>
        <Input ref={search} placeholder="Search ( / )" spellCheck="false" />
      </SearchField>
      {toggles
        .filter(([key]) => key !== 'changed' || marksChanges)
        .map(([key, label]) => (
          <ToggleButton
            key={key}
            className="toggle"
            isSelected={filters[key]}
            onChange={(isSelected) => onChange({ ...filters, [key]: isSelected })}
          >
            {label} <span className="toggle__count">{count[key]}</span>
          </ToggleButton>
        ))}
      <label className="select">
        <span>Stage</span>
        <select
          value={filters.stage ?? ''}
          onChange={({ target }) => onChange({ ...filters, stage: target.value === '' ? null : target.value })}
        >
          <option value="">all</option>
          {overview.stages.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <span className="toolbar__count" role="status">
        {shown === rows.length
          ? `${rows.length} setting${rows.length === 1 ? '' : 's'}`
          : `${shown} of ${rows.length} settings`}
      </span>
      {isFiltered ? (
        <Button className="link" onPress={() => onChange(NO_FILTERS)}>
          Show all
        </Button>
      ) : null}
    </div>
  )
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)
}
