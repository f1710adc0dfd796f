import { useCallback, useDeferredValue, useMemo, useState } from 'react'
import type { PageSource } from '../source/page-source.ts'
import { StoryPanel } from '../story/StoryPanel.tsx'
import { SurveyTab } from '../survey/SurveyTab.tsx'
import { changesSince } from '../table/changes.ts'
import { type Filters, isShown, NO_FILTERS, shownStages } from '../table/filters.ts'
import { type CellPlace, SettingsTable } from '../table/SettingsTable.tsx'
import { Bar, type View } from './Bar.tsx'
import { Failures } from './Failures.tsx'
import { StageCards } from './StageCards.tsx'
import { Toolbar } from './Toolbar.tsx'
import { useLive } from './use-live.ts'

interface AppProps {
  readonly source: PageSource
}

/** The page: what is wrong in each stage, all settings, and the story of the one that is chosen. */
export function App({ source: from }: AppProps) {
  const { state, baseline, isLost, error, source } = useLive(from)
  const [view, setView] = useState<View>('settings')
  const [filters, setFilters] = useState<Filters>(NO_FILTERS)
  const [selected, setSelected] = useState<CellPlace | null>(null)
  // What is typed shows at once; the rows follow.
  const wanted = useDeferredValue(filters)
  const overview = state?.overview
  const columns = useMemo(() => (overview === undefined ? [] : shownStages(overview, wanted)), [overview, wanted.stage])
  const changes = useMemo(
    () => (overview === undefined ? new Map() : changesSince(baseline, overview)),
    [overview, baseline],
  )
  const shown = useMemo(() => {
    const rows = overview?.groups.flatMap((group) => group.rows) ?? []
    return new Set(rows.filter((row) => isShown(row, wanted, columns, changes)).map(({ path }) => path))
  }, [overview, wanted, columns, changes])
  const close = useCallback(() => {
    setSelected(null)
    focusCell(selected)
  }, [selected])
  if (state === null || overview === undefined)
    return (
      <>
        <Bar project="" isLost={isLost} view={view} onView={setView} source={source} />
        <p className="wait">{error ?? 'Reading the settings …'}</p>
      </>
    )
  return (
    <>
      <Bar project={overview.project} isLost={isLost} view={view} onView={setView} source={source} />
      <Failures problems={state.failures} />
      {view === 'code' && source.code !== null ? (
        <SurveyTab
          code={source.code}
          stages={overview.stages.map(({ name }) => name)}
          open={state.hasEditor ? source.open : null}
        />
      ) : (
        <main className={selected === null ? 'main' : 'main main--story'}>
          <div className="main__stages">
            <StageCards
              stages={overview.stages}
              active={filters.stage}
              onSelect={setSelected}
              onStage={(stage) => setFilters({ ...filters, stage })}
            />
            <Toolbar
              marksChanges={source.marksChanges}
              overview={overview}
              filters={filters}
              changes={changes}
              onChange={setFilters}
              shown={shown.size}
            />
            <div className="main__table">
              <SettingsTable
                overview={overview}
                columns={columns}
                shown={shown}
                changes={changes}
                selected={selected}
                onSelect={setSelected}
              />
              {shown.size === 0 ? <p className="wait">No setting is left by these filters.</p> : null}
            </div>
          </div>
          {selected === null ? null : (
            <StoryPanel
              key={selected.setting}
              place={selected}
              revision={state.revision}
              source={source}
              hasEditor={state.hasEditor}
              onStage={(stage) => setSelected({ ...selected, stage })}
              onSetting={(setting) => setSelected({ ...selected, setting })}
              onClose={close}
            />
          )}
        </main>
      )}
    </>
  )
}

/** Gives the focus back to the cell that a story was about. */
function focusCell(place: CellPlace | null): void {
  if (place === null) return
  const cells = document.querySelectorAll<HTMLElement>('[role=gridcell]')
  const cell = [...cells].find(({ dataset }) => dataset.setting === place.setting && dataset.stage === place.stage)
  // Once the story is gone: what is in it has the focus still.
  requestAnimationFrame(() => cell?.focus())
}
