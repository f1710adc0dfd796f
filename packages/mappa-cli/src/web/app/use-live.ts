import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { PageState } from '../../views/page.ts'
import type { PageSource } from '../source/page-source.ts'
import { readingAfterWrites } from '../source/reading-after-writes.ts'
import { type Baseline, shared, toBaseline } from '../table/changes.ts'

/** What the page knows, kept up to date. */
export interface Live {
  /** `null` until it is known. */
  readonly state: PageState | null
  /** What there was when the page was opened. */
  readonly baseline: Baseline
  /** True while nobody can be asked. */
  readonly isLost: boolean
  readonly error: string | null
  /** The same source, whose writes are known here when they are done. */
  readonly source: PageSource
}

type Known = Omit<Live, 'source'>

/** Reads the state from a source, and again after each change. */
export function useLive(source: PageSource): Live {
  const [known, setKnown] = useState<Known>({ state: null, baseline: new Map(), isLost: false, error: null })
  const isOpen = useRef(true)
  const read = useCallback(async (): Promise<void> => {
    try {
      const state = await source.state()
      if (!isOpen.current) return
      setKnown((before) => {
        // An answer that was overtaken by a later one says nothing new.
        if (before.state !== null && state.revision < before.state.revision) return before
        const isFirst = before.state === null && source.marksChanges
        const baseline = isFirst ? toBaseline(state.overview) : before.baseline
        const overview = before.state === null ? state.overview : shared(before.state.overview, state.overview)
        return { state: { ...state, overview }, baseline, isLost: false, error: null }
      })
    } catch (error) {
      if (isOpen.current) setKnown((before) => ({ ...before, error: (error as Error).message }))
    }
  }, [source])
  useEffect(() => {
    isOpen.current = true
    let last = -1
    const stop = source.watch(
      (revision) => {
        if (revision === last) return
        last = revision
        void read()
      },
      (isLost) => setKnown((before) => ({ ...before, isLost })),
    )
    void read()
    return () => {
      isOpen.current = false
      stop()
    }
  }, [source, read])
  const writing = useMemo(() => readingAfterWrites(source, read), [source, read])
  return { ...known, source: writing }
}
