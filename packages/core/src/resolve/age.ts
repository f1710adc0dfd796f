import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { addDuration } from '../text/iso-duration.ts'
import type { ResolvedSetting } from './resolved-setting.ts'

/**
 * Warns of a value that is older than its setting allows. A value that stands in no file has no known age.
 *
 * @param today as RFC 3339 writes a day, `2026-11-23`; today, in UTC, if left out
 */
export function checkAge(
  { declaration, origin, candidates }: ResolvedSetting,
  today = new Date().toISOString().slice(0, 10),
  reporter: Reporter,
): void {
  const { name, path, options } = declaration
  const [winner] = candidates()
  if (winner === undefined || origin === null || origin.file === null) return
  const { file, line, column } = origin
  const place = { file, line, column, name, setting: path }
  const rotate = options.rotateEvery!
  const day = winner.setOn()
  const due = day === null ? null : addDuration(day, rotate)
  if (day === null || due === null) reporter.report(problem('rotation-unknown', { name, rotate, today }, place))
  else if (due < today) reporter.report(problem('rotation-due', { name, day, due }, place))
}
