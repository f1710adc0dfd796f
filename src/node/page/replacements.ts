import type { Definition } from '../../core/definition/definition.ts'
import { replacementsOf } from '../../core/page/replacements.ts'
import { checkOptionNames } from '../../core/problems/option-names.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { inspectSettings, reportOf, SOURCE_OPTIONS, type SourceOptions } from '../load.ts'

/** Options of {@link publicReplacements}. */
export interface ReplacementOptions extends SourceOptions {
  /** The objects whose members page code reads; `process.env` and `import.meta.env` if left out. */
  readonly objects?: readonly string[]
}

/**
 * The table of what to put in the place of variables that page code reads, for any bundler that replaces expressions: the
 * texts of public settings that have their values at build time.
 *
 * @returns JavaScript by expression, such as `"12"` by `process.env.NIGHT_PLACES`
 * @throws {SettingsError} where the settings of the stage are wrong
 * @example
 * ```ts
 * const define = publicReplacements(definition, { stage: 'production' })
 * ```
 */
export function publicReplacements(definition: Definition, options: ReplacementOptions = {}): Record<string, string> {
  checkOptionNames(options, [...SOURCE_OPTIONS, 'objects'], 'publicReplacements')
  const { objects = ['process.env', 'import.meta.env'], ...sources } = options
  const inspection = inspectSettings(definition, sources)
  if (inspection.values === null) throw new SettingsError(reportOf(inspection))
  const table = replacementsOf(inspection.settings)
  return Object.fromEntries(objects.flatMap((object) => [...table].map(([name, code]) => [`${object}.${name}`, code])))
}
