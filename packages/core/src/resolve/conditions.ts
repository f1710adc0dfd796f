import { type Condition, describeConditions, listConditions, listWantedValues } from '../definition/conditions.ts'
import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { meansSame } from '../text/meaning.ts'
import type { ResolvedSetting } from './resolved-setting.ts'
import { descriptionClause, type WhereToPut } from './where.ts'

/** Holds settings against each other, as `requiredIf` and `forbiddenIf` of the definition say. */
export function checkConditions(settings: readonly ResolvedSetting[], putInto: WhereToPut, reporter: Reporter): void {
  let byPath: ReadonlyMap<string, ResolvedSetting> | undefined
  for (const each of settings) {
    const conditions = listConditions(each.declaration)
    if (conditions.length === 0) continue
    byPath ??= new Map(settings.map((setting) => [setting.declaration.path, setting]))
    for (const rule of ['requiredIf', 'forbiddenIf'] as const) {
      const own = conditions.filter((condition) => condition.rule === rule)
      if (own.length > 0 && own.every((condition) => holds(condition, byPath!)))
        checkPresence(each, rule, own, putInto, reporter)
    }
  }
}

function holds(condition: Condition, byPath: ReadonlyMap<string, ResolvedSetting>): boolean {
  const setting = byPath.get(condition.other)
  if (setting === undefined || !setting.valid) return false
  return listWantedValues(condition, setting.declaration).some((value) => meansSame(value, setting.value))
}

function checkPresence(
  { declaration, text, origin }: ResolvedSetting,
  rule: Condition['rule'],
  conditions: readonly Condition[],
  putInto: WhereToPut,
  reporter: Reporter,
): void {
  const { name, path } = declaration
  const why = describeConditions(conditions)
  if (rule === 'requiredIf' && text === undefined) {
    const details = { name, why, description: descriptionClause(declaration), put: putInto(declaration) }
    reporter.report(problem('missing-then', details, { name, setting: path }))
  }
  if (rule === 'forbiddenIf' && text !== undefined && origin !== null) {
    const { file, line, column } = origin
    reporter.report(problem('forbidden-then', { name, why }, { file, line, column, name, setting: path }))
  }
}
