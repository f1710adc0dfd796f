import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import type { Inspection } from '@mappa/node/load/inspect'
import { type SearchedSecret, toNeedles } from '@mappa/search/needles'

/** A value that a setting had, and that somebody may still have. */
export interface FormerValue {
  readonly declaration: Declaration
  readonly text: string
}

/**
 * Adds a former value to what is looked for. Where it still is the value of a setting, it counts as the former one.
 *
 * @throws {SettingsError} where it can't be told apart from other text
 */
export function withFormer(
  others: readonly SearchedSecret[],
  { declaration, text }: FormerValue,
): readonly SearchedSecret[] {
  const { name, path: setting } = declaration
  const needles = toNeedles(`${name} (former value)`, setting, text)
  if (needles.length === 0) throw settingsError(guardProblem('former-not-searchable', { name }, { name, setting }))
  const forms = new Set(needles.map(({ patterns }) => patterns[0]?.text))
  const rest = others.filter(({ patterns }) => !forms.has(patterns[0]?.text))
  return [...rest, ...needles.map((each) => ({ ...each, formerOf: name }))]
}

/** The settings that have the former value now, in whatever stage. */
export function findFormerInUse(
  { declaration, text }: FormerValue,
  inspections: readonly Inspection<Definition>[],
): readonly Problem[] {
  return inspections.flatMap(({ stage, settings }) =>
    settings
      .filter((each) => each.text === text)
      .map(({ declaration: { name, path: setting }, origin }) => {
        const { file = null, line = null, column = null } = origin ?? {}
        return guardProblem(
          'former-in-use',
          { name, stage, of: declaration.name },
          { file, line, column, name, setting },
        )
      }),
  )
}
