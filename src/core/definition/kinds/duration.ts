import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Milliseconds in each unit, the largest first. */
const UNITS: readonly (readonly [unit: string, milliseconds: number])[] = [
  ['w', 604_800_000],
  ['d', 86_400_000],
  ['h', 3_600_000],
  ['m', 60_000],
  ['s', 1000],
  ['ms', 1],
]

const SHORT =
  /^(?:(\d+(?:\.\d+)?)w)?(?:(\d+(?:\.\d+)?)d)?(?:(\d+(?:\.\d+)?)h)?(?:(\d+(?:\.\d+)?)m(?!s))?(?:(\d+(?:\.\d+)?)s)?(?:(\d+(?:\.\d+)?)ms)?$/
/** ISO 8601-1, 5.5.2, without years and months, which have no fixed length. */
const ISO =
  /^P(?!$)(?:(\d+(?:\.\d+)?)W)?(?:(\d+(?:\.\d+)?)D)?(?:T(?=\d)(?:(\d+(?:\.\d+)?)H)?(?:(\d+(?:\.\d+)?)M)?(?:(\d+(?:\.\d+)?)S)?)?$/

/** How long something takes: `15m`, `1h30m`, or `PT15M` as ISO 8601 writes it. It arrives as milliseconds. */
export const duration = /* @__PURE__ */ kind<number, Maker<number, NumberConstraints>>({
  name: 'duration',
  says: () => 'duration, such as 15m',
  constraints: NUMBER_CONSTRAINTS,
  accepts: (value) => typeof value === 'number' && Number.isFinite(value) && value >= 0,
  convert(text) {
    const parts = text.length > 100 ? null : (SHORT.exec(text) ?? ISO.exec(text))
    if (parts === null || text === '') return failure('not-duration', { near: /^\d{1,9}$/.test(text) ? text : null })
    const value = UNITS.reduce((sum, [, length], index) => sum + Number(parts[index + 1] ?? 0) * length, 0)
    return Number.isSafeInteger(Math.round(value)) ? { value } : failure('duration-too-long', {})
  },
  toText(value) {
    // The largest unit that needs no more than two digits behind the point.
    const [unit, length] = UNITS.find(([, each]) => value >= each && (value * 100) % each === 0) ?? ['ms', 1]
    return `${value / length}${unit}`
  },
  show: true,
  schema: { type: 'number' },
})
