import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'

/** RFC 3339, section 5.6, with the `T` and the zone that it asks for. */
const FORM = /^(\d{4})-(\d\d)-(\d\d)[Tt](\d\d):(\d\d):(\d\d)(\.\d+)?([Zz]|[+-](\d\d):(\d\d))$/

/** A moment: `2026-11-23T18:30:00Z`. It arrives as a `Date`; a day that the calendar lacks is refused. */
export const dateTimeKind = /* @__PURE__ */ kind<Date, Maker<Date, unknown, Date | string>>({
  name: 'dateTime',
  describe: () => 'date and time with a zone',
  constraints: [],
  isValid: (value) => value instanceof Date && !Number.isNaN(value.getTime()),
  convert(text) {
    const parts = FORM.exec(text)
    if (parts === null) return failure('not-date-time', {})
    const [year, month, day, hour, minute, second] = parts.slice(1, 7).map(Number) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ]
    const days = countDays(year, month)
    const [zoneHour, zoneMinute] = [Number(parts[9] ?? 0), Number(parts[10] ?? 0)]
    const fits =
      month >= 1 &&
      month <= 12 &&
      day >= 1 &&
      day <= days &&
      hour <= 23 &&
      minute <= 59 &&
      second <= 59 &&
      zoneHour <= 23 &&
      zoneMinute <= 59
    const value = new Date(text.toUpperCase())
    return fits && !Number.isNaN(value.getTime()) ? { value } : failure('date-time-out-of-range', {})
  },
  text: () => ({ pattern: FORM.source, notExpressed: ['the calendar and the clock'] }),
  toText: (value) => value.toISOString(),
  readsText: true,
  type: { typescript: () => 'Date', payload: () => 'd', isText: true },
  schema: { type: 'string' },
})

/** The days of a month, in the calendar that RFC 3339 counts back to the year 0. */
function countDays(year: number, month: number): number {
  if (month !== 2) return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31
  return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
}

/**
 * Declares a setting that is a date and time, as a `Date`. Accepts RFC 3339 with a time zone: `2026-11-23T18:30:00Z`, `2026-11-23T19:30:00+01:00`.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions})
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.dateTime('When the dome opens')
 * // DOME_OPENS=2026-11-23T18:30:00Z -> Date
 * ```
 */
export const dateTime = /* @__PURE__ */ maker(dateTimeKind)
