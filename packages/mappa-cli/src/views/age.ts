import type { Declaration } from '@mappa/core/definition/definition'
import type { LayerValue } from '@mappa/core/layers/layer'
import { addDuration } from '@mappa/core/text/iso-duration'

/** How old a value is. Days are as in RFC 3339: `2026-11-26`. */
export interface AgeView {
  /** The day on which it was set; `null` where its file does not say. */
  readonly setOn: string | null
  /** Whole days since then. */
  readonly days: number | null
  /** How often it is to be rotated, as an ISO 8601 duration; `null` where no rule says so. */
  readonly rotateEvery: string | null
  /** The day by which it is to be rotated. */
  readonly due: string | null
  readonly overdue: boolean
}

const DAY_MS = 86_400_000

/**
 * The age of a value, where it is known or has to be.
 *
 * @param value the value in use
 * @param today the day to compare with
 */
export function toAge({ options }: Declaration, value: LayerValue | undefined, today: string): AgeView | null {
  const setOn = value?.setOn() ?? null
  const rotateEvery = options.rotateEvery === undefined ? null : String(options.rotateEvery)
  if (setOn === null && rotateEvery === null) return null
  const due = setOn === null || rotateEvery === null ? null : addDuration(setOn, rotateEvery)
  const days = setOn === null ? null : Math.floor((Date.parse(today) - Date.parse(setOn)) / DAY_MS)
  return { setOn, days, rotateEvery, due, overdue: due !== null && due < today }
}
