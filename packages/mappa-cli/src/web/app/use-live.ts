import { useEffect, useState } from 'react'
import type { PageState } from '../../views/page.ts'
import type { PageSource } from '../source/page-source.ts'
import { type Baseline, baselineOf, shared } from '../table/changes.ts'

/** What the page knows, kept up to date. */
export interface Live {
  /** `null` until it is known. */
  readonly state: PageState | null
  /** What there was when the page was opened. */
  readonly baseline: Baseline
  /** True while nobody can be asked. */
  readonly isLost: boolean
  readonly error: string | null
}

/** Reads the state from a source, and again after each change. */
export function useLive(source: PageSource): Live {
  const [live, setLive] = useState<Live>({ state: null, baseline: new Map(), isLost: false, error: null })
  useEffect(() => {
    let isOpen = true
    const read = async (): Promise<void> => {
      try {
        const state = await source.state()
        if (!isOpen) return
        setLive((before) => {
          // An answer that was overtaken by a later one says nothing new.
          if (before.state !== null && state.revision < before.state.revision) return before
          const isFirst = before.state === null && source.marksChanges
          const baseline = isFirst ? baselineOf(state.overview) : before.baseline
          const overview = before.state === null ? state.overview : shared(before.state.overview, state.overview)
          return { state: { ...state, overview }, baseline, isLost: false, error: null }
        })
      } catch (error) {
        if (isOpen) setLive((before) => ({ ...before, error: (error as Error).message }))
      }
    }
    let known = -1
    const stop = source.watch(
      (revision) => {
        if (revision === known) return
        known = revision
        void read()
      },
      (isLost) => setLive((before) => ({ ...before, isLost })),
    )
    void read()
    return () => {
      isOpen = false
      stop()
    }
  }, [source])
  return live
}
