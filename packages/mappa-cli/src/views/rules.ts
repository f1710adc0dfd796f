import type { Declaration } from '@mappa/core/definition/definition'
import { describeRules, type RuleSubject } from '@mappa/core/definition/rule-words'
import type { Problem, ProblemCode } from '@mappa/core/problems/problem'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'

/** A rule of a setting, and how its value stands to it in one stage. */
export interface RuleView {
  /** In words, such as `at least 24 characters`. */
  readonly text: string
  /** `not checked` where there is no value to check. */
  readonly state: 'passed' | 'failed' | 'not checked'
}

/** The problems that tell of a broken rule, where the value alone does not. */
const TOLD_BY: Partial<Record<RuleSubject, readonly ProblemCode[]>> = {
  need: ['missing', 'empty', 'placeholder-left'],
  condition: ['missing-then', 'forbidden-then'],
  stages: ['value-shared'],
  age: ['rotation-due', 'rotation-unknown'],
}

/**
 * The rules of a setting in one stage, in words, and which of them its value keeps.
 *
 * @param declaration the setting with the rules of the stage
 * @param setting its value there
 * @param problems those of the setting in the stage
 */
export function listRules(
  declaration: Declaration,
  setting: ResolvedSetting,
  problems: readonly Problem[],
): readonly RuleView[] {
  const { text } = setting
  const converted = text === undefined ? null : declaration.kind.convert(text, declaration.options)
  // Constraints come in the order of the checks.
  const checks = declaration.checks.values()
  const getState = (about: RuleSubject): RuleView['state'] => {
    if (about === 'kind') return converted === null ? 'not checked' : passedIf('value' in converted)
    if (about !== 'constraint') return toldState(about, text, problems)
    const check = checks.next().value
    if (converted === null || check === undefined || !('value' in converted)) return 'not checked'
    return passedIf(check(converted.value) === null)
  }
  return describeRules(declaration).map(({ about, text: words }) => ({ text: words, state: getState(about) }))
}

const passedIf = (isKept: boolean) => (isKept ? 'passed' : 'failed')

function toldState(about: RuleSubject, text: string | undefined, problems: readonly Problem[]): RuleView['state'] {
  const codes = TOLD_BY[about] ?? []
  if (problems.some(({ code }) => codes.includes(code))) return 'failed'
  return text === undefined && (about === 'stages' || about === 'age') ? 'not checked' : 'passed'
}
