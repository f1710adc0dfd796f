import { addDecimal, type Decimal, getText, multiply, parseDecimal } from '../../text/decimal.ts'
import type { Maker } from '../setting.ts'
import { type LimitsIn, NUMBER_CONSTRAINTS } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { NUMBER } from './value-types.ts'

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
export const durationKind = /* @__PURE__ */ kind<number, Maker<number, LimitsIn<number | string>, number | string>>({
  name: 'duration',
  describe: () => 'duration, such as 15m',
  constraints: NUMBER_CONSTRAINTS,
  isValid: (value) => typeof value === 'number' && value >= 0 && value <= Number.MAX_SAFE_INTEGER,
  convert(text) {
    const parts = text.length > 400 ? null : (SHORT.exec(text) ?? ISO.exec(text))
    if (parts === null || text === '') return failure('not-duration', { near: /^\d{1,9}$/.test(text) ? text : null })
    let sum: Decimal = { digits: 0n, scale: 0 }
    for (const [index, [, length]] of UNITS.entries()) {
      const part = parseDecimal(parts[index + 1] ?? '0')
      sum = addDecimal(sum, { digits: part.digits * BigInt(length), scale: part.scale })
    }
    const { value } = multiply(sum, 1n)
    return value <= Number.MAX_SAFE_INTEGER ? { value } : failure('duration-too-long', {})
  },
  text: () => ({ pattern: `^(?!$)(?:${SHORT.source}|${ISO.source})`, notExpressed: ['the longest duration'] }),
  toText(value) {
    // The largest unit that needs no more than two digits behind the point.
    const [unit, length] = UNITS.find(([, each]) => value >= each && value < 9e13 && (value * 100) % each === 0) ?? [
      'ms',
      1,
    ]
    if (length === 1) return `${getText(parseDecimal(String(value)))}ms`
    const hundredths = (value * 100) / length
    return `${getText({ digits: BigInt(hundredths), scale: 2 })}${unit}`
  },
  show: true,
  readsText: true,
  type: NUMBER,
  schema: { type: 'number' },
})

/**
 * Declares a setting that is a duration, in milliseconds. Accepts numbers with units, the largest first (`500ms`, `15m`, `1h30m`, `2d`), and ISO 8601 (`PT15M`).
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minimum`, `maximum`, `exclusiveMinimum`, `exclusiveMaximum`, `multipleOf`: in milliseconds, or a text such as 15m. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.duration('Pause between two turns', { default: '15m', maximum: '1h' })
 * // DOME_PAUSE=1m30s -> 90000
 * ```
 */
export const duration = /* @__PURE__ */ maker(durationKind)
