import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { addDuration } from '../text/iso-duration.ts'
import type { ResolvedSetting } from './resolved-setting.ts'

/**
 * Warns of what is out of date: a value that had to be rotated, or a former one that is accepted for longer than it should be.
 *
 * @param today as RFC 3339 writes a day, `2026-11-23`; today, in UTC, if left out
 */
export function checkDates(
  settings: readonly ResolvedSetting[],
  today = new Date().toISOString().slice(0, 10),
  reporter: Reporter,
): void {
  for (const each of settings) {
    const { options, formerOf } = each.declaration
    if (options.rotateEvery !== undefined) checkAge(each, today, reporter)
    if (formerOf === null || each.text === undefined) continue
    const present = settings.find(({ declaration }) => declaration.path === formerOf)!
    checkFormer(each, present, today, reporter)
  }
}

/** A former value that stands in no file has no known age. */
function checkFormer(former: ResolvedSetting, present: ResolvedSetting, today: string, reporter: Reporter): void {
  const { declaration, origin, text, candidates } = former
  const { name, path, options } = declaration
  const { file = null, line = null, column = null } = origin ?? {}
  const place = { file, line, column, name, setting: path }
  if (text === present.text)
    reporter.report(problem('former-is-present', { name, present: present.declaration.name }, place))
  if (file === null) return
  const time = options.acceptFormerFor!
  const day = candidates()[0]?.setOn() ?? null
  const end = day === null ? null : addDuration(day, time)
  const details = { name, time, today, present: present.declaration.name }
  if (end === null) reporter.report(problem('former-undated', details, place))
  else if (end < today) reporter.report(problem('former-overdue', { name, end }, place))
}

/**
 * Warns of a value that is older than its setting allows. A value that stands in no file has no known age.
 *
 * @param today as RFC 3339 writes a day, `2026-11-23`
 */
function checkAge({ declaration, origin, candidates }: ResolvedSetting, today: string, reporter: Reporter): void {
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
