import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { type Condition, listConditions, listWantedValues } from './conditions.ts'
import type { Declaration } from './definition.ts'

/**
 * Checks what settings say about each other, once all of them are known.
 *
 * @param reporter is told everything that is wrong
 */
export function checkRules(settings: readonly Declaration[], reporter: Reporter): void {
  let byPath: ReadonlyMap<string, Declaration> | undefined
  for (const declaration of settings) {
    const { options } = declaration
    // Most settings have no such rules, and every start of a program comes by here.
    if (options.requiredIf === undefined && options.forbiddenIf === undefined) continue
    byPath ??= new Map(settings.map((each) => [each.path, each]))
    for (const condition of listConditions(declaration)) checkCondition(declaration, condition, byPath, reporter)
  }
}

function checkCondition(
  { path }: Declaration,
  condition: Condition,
  byPath: ReadonlyMap<string, Declaration>,
  reporter: Reporter,
): void {
  const { rule, other } = condition
  const known = byPath.get(other)
  if (known === undefined || other === path) {
    const near = makeClosestMatch([...byPath.keys()].filter((each) => each !== path))(other)
    reporter.report(problem('rule-setting-unknown', { path, rule, other, near }, { setting: path }))
    return
  }
  if (known.secret) reporter.report(problem('rule-on-secret', { path, rule, other }, { setting: path }))
  for (const value of listWantedValues(condition, known)) {
    const values: readonly unknown[] | undefined = known.kind.values?.(known.options)
    if (known.kind.isValid(value) && values?.includes(value) !== false) continue
    const shown = JSON.stringify(value) ?? String(value)
    reporter.report(problem('rule-value-wrong', { path, rule, other, value: shown }, { setting: path }))
  }
}
