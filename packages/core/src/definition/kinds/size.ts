import { multiply, parseDecimal } from '../../text/decimal.ts'
import type { Maker } from '../setting.ts'
import { type LimitsIn, NUMBER_CONSTRAINTS } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { NUMBER } from './value-types.ts'

/** Bytes in each unit: the decimal ones of the SI, and the binary ones of IEC 80000-13. The largest first. */
const UNITS = new Map<string, number>([
  ['TiB', 2 ** 40],
  ['TB', 1e12],
  ['GiB', 2 ** 30],
  ['GB', 1e9],
  ['MiB', 2 ** 20],
  ['MB', 1e6],
  ['KiB', 1024],
  ['kB', 1000],
  ['B', 1],
])

/** How large something is: `10MB` is 10,000,000 bytes and `10MiB` is 10,485,760; a number alone is bytes. */
export const sizeKind = /* @__PURE__ */ kind<number, Maker<number, LimitsIn<number | string>, number | string>>({
  name: 'size',
  describe: () => 'size, such as 10MB',
  constraints: NUMBER_CONSTRAINTS,
  isValid: (value) => Number.isSafeInteger(value) && (value as number) >= 0,
  convert(text) {
    const [, digits, unit] = /^(\d{1,16}(?:\.\d{1,9})?) ?([A-Za-z]{0,3})$/.exec(text) ?? []
    const bytes = unit === '' ? 1 : UNITS.get(unit ?? '-')
    if (digits === undefined || bytes === undefined) return failure('not-size', { near: guess(digits, unit) })
    const { value, isWhole } = multiply(parseDecimal(digits), BigInt(bytes))
    return isWhole && Number.isSafeInteger(value) ? { value } : failure('size-inexact', {})
  },
  text: () => ({
    pattern: '^[0-9]{1,16}(?:\\.[0-9]{1,9})? ?(?:[kKMGT]i?B|B)?$',
    notExpressed: ['that it is a whole number of bytes'],
  }),
  toText(value) {
    const [unit, bytes] = [...UNITS].find(([, each]) => value !== 0 && value % each === 0) ?? ['B', 1]
    return `${value / bytes}${unit}`
  },
  show: true,
  readsText: true,
  type: NUMBER,
  schema: { type: 'integer' },
})

/** `10M` and `10mb` may mean either unit, so both are offered. */
function guess(digits: string | undefined, unit: string | undefined): string | null {
  const letter = digits === undefined || unit === undefined ? '' : /^([kmgt])(?:b|ib)?$/i.exec(unit)?.[1]
  if (!letter) return null
  const upper = letter.toUpperCase()
  return `${digits}${upper === 'K' ? 'k' : upper}B or ${digits}${upper}iB`
}

/**
 * Declares a setting that is a size, in bytes. Accepts a number with a unit: `B`, `kB`, `MB`, `GB`, `TB` (powers of 1000) or `KiB`, `MiB`, `GiB`, `TiB` (powers of 1024).
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minimum`, `maximum`, `exclusiveMinimum`, `exclusiveMaximum`, `multipleOf`: in bytes, or a text such as 10MB. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.size('Largest picture', { default: '10MB' })
 * // PICTURE_LIMIT=2MiB -> 2097152
 * ```
 */
export const size = /* @__PURE__ */ maker(sizeKind)
