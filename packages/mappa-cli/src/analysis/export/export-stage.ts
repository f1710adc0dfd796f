import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { hasErrors } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { isWellFormed } from '@mappa/core/text/well-formed'
import { type Inspection, toReport } from '@mappa/node/load/inspect'
import { withoutMissingSecrets } from '../check/missing.ts'
import type { ExportedValue, Format, FormatOptions } from './format.ts'

/** A stage, written down. */
export interface Exported {
  /** The text of one file, or the texts of many by their names. */
  readonly content: string | ReadonlyMap<string, string>
  /** The names that are in it. */
  readonly names: readonly string[]
  /** The names of secrets that were left out. */
  readonly leftOut: readonly string[]
  /** True if a secret is in it. */
  readonly hasSecrets: boolean
}

/**
 * Writes the values of a stage down in a format. Optional settings without a value are not in it.
 *
 * @param withSecrets true to write secrets too; otherwise they are left out, and need not be there
 * @throws {SettingsError} if settings are missing or wrong, or the format can't hold a value
 */
export function exportStage(
  inspection: Inspection,
  format: Format,
  options: FormatOptions,
  withSecrets: boolean,
): Exported {
  const checked = withSecrets ? inspection : withoutMissingSecrets(inspection)
  if (hasErrors(checked.problems)) throw new SettingsError(toReport(checked))
  const known = inspection.settings.flatMap(({ declaration, text, masked }) =>
    text === undefined ? [] : [{ name: declaration.name, text, secret: masked }],
  )
  const values = withSecrets ? known : known.filter(({ secret }) => !secret)
  mustFit(values, format, inspection)
  return {
    content: format.write(values, options),
    names: values.map(({ name }) => name),
    leftOut: withSecrets ? [] : inspection.settings.filter(({ masked }) => masked).map((each) => each.declaration.name),
    hasSecrets: values.some(({ secret }) => secret),
  }
}

function mustFit(values: readonly ExportedValue[], format: Format, { stage, settings }: Inspection): void {
  const problems = values.flatMap((value) => {
    const { name } = value
    const reason = isWellFormed(value.text) ? format.refuse(value) : 'it has half a character'
    if (reason === null) return []
    const { declaration, origin } = settings.find((each) => each.declaration.name === name)!
    const { file = null, line = null, column = null } = origin ?? {}
    const place = { name, setting: declaration.path, stage, file, line, column }
    return [commandProblem('format-refuses', { name, format: format.name, reason }, place)]
  })
  if (problems.length > 0) throw new SettingsError({ title: 'The export', stage, problems })
}
