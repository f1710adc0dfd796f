/** A duration in days and longer units (ISO 8601-1, 5.5.2): `P28D`, `P2W`, `P1Y6M`. */
const DURATION = /^P(?=\d)(?:(\d{1,4})Y)?(?:(\d{1,4})M)?(?:(\d{1,4})W)?(?:(\d{1,5})D)?$/

/** True for a duration of at least a day in days or longer units, as ISO 8601 writes it. */
export function isDayDuration(value: unknown): value is string {
  return typeof value === 'string' && DURATION.test(value) && /[1-9]/.test(value)
}

/**
 * The day that lies a duration behind another.
 *
 * @param day a day as RFC 3339 writes it, `2026-11-23`
 * @param duration such as `P28D`
 * @returns the later day, 9999-12-31 at most, where RFC 3339 ends; `null` where the first is no day of the calendar
 */
export function addDuration(day: string, duration: string): string | null {
  const [, years = '0', months = '0', weeks = '0', days = '0'] = DURATION.exec(duration) ?? []
  const from = new Date(`${day}T00:00:00Z`)
  if (Number.isNaN(from.getTime())) return null
  const later = new Date(from)
  later.setUTCFullYear(
    from.getUTCFullYear() + Number(years),
    from.getUTCMonth() + Number(months),
    from.getUTCDate() + 7 * Number(weeks) + Number(days),
  )
  return later.getUTCFullYear() > 9999 ? '9999-12-31' : later.toISOString().slice(0, 10)
}
