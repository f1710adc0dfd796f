import { findPublicFaults } from '@mappa/core/page/public-values'
import { listReplacements } from '@mappa/core/page/replacements'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import { hasErrors } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { toLiteral } from '@mappa/core/values/literal'
import { inspectSettings, SOURCE_OPTIONS, type SourceOptions, toReport } from '@mappa/node/load/inspect'
import { findEverywhere } from '@mappa/search/find-in-public'
import { loadProjectDefinition, type SettingsOrPath } from './definition.ts'
import { mustBeTexts } from './must-be-texts.ts'

/** Options of {@link publicReplacements}. */
export interface ReplacementOptions extends SourceOptions {
  /** The objects whose members page code reads; `['process.env', 'import.meta.env']` if left out. */
  readonly objects?: readonly string[]
  /**
   * Private settings, by their variable names, whose values may be in pages. Secrets may not.
   * @default []
   */
  readonly allowInPage?: readonly string[]
  /**
   * False for the bare texts, for what puts quotes around them by itself, such as `compiler.define` of Next.js.
   * @default true: JavaScript
   */
  readonly quoted?: boolean
}

/** Stands for the stage of the build: `loadSettings(definition, { buildStage: process.env.MAPPA_BUILD_STAGE })`. */
const BUILD_STAGE = 'MAPPA_BUILD_STAGE'

/**
 * The table of what to put in the place of variables that page code reads, for any bundler that replaces expressions: the
 * texts of public settings that have their values at build time, and the stage of the build as `MAPPA_BUILD_STAGE`. Private settings may
 * lack their values, as on a machine that has no keys.
 *
 * @param settings the path or `file:` URL of the definition or of its project, or the definition itself; found as commands find it if
 *   left out
 * @returns JavaScript, or texts, by expression, such as `"12"` by `process.env.NIGHT_PLACES`
 * @throws {SettingsError} where there is no definition, or public settings of the stage are wrong
 * @example
 * ```ts
 * const define = publicReplacements('settings.definition.ts', { stage: 'production' })
 * // { 'process.env.NIGHT_PLACES': '"12"', 'import.meta.env.NIGHT_PLACES': '"12"' }
 * ```
 */
export function publicReplacements(
  settings?: SettingsOrPath,
  options: ReplacementOptions = {},
): Record<string, string> {
  checkOptionNames(options, [...SOURCE_OPTIONS, 'objects', 'allowInPage', 'quoted'], 'publicReplacements')
  mustBeTexts(options.objects, 'objects', 'publicReplacements')
  mustBeTexts(options.allowInPage, 'allowInPage', 'publicReplacements')
  const { objects = ['process.env', 'import.meta.env'], allowInPage = [], quoted = true, ...sources } = options
  const { definition, root } = loadProjectDefinition(settings, sources.root)
  const inspection = inspectSettings(definition, { ...sources, root })
  const open = new Set(definition.settings.flatMap((each) => (each.public ? [each.path] : [])))
  // What a page does not get is for others to have.
  const problems = inspection.problems.filter(
    ({ code, setting }) => !((code === 'missing' || code === 'empty') && setting !== null && !open.has(setting)),
  )
  const faults = [...problems, ...findPublicFaults(inspection.settings, { allowInPage, makeFind: findEverywhere })]
  if (hasErrors(faults)) throw new SettingsError({ ...toReport(inspection), problems: faults })
  const table = [...listReplacements(inspection.settings), [BUILD_STAGE, inspection.stage] as const]
  const replacements = table.flatMap(([name, text]): [string, string][] => {
    const written = quoted ? toLiteral(text)! : text
    return written === undefined ? [] : [[name, written]]
  })
  return Object.fromEntries(
    objects.flatMap((object) => replacements.map(([name, text]) => [`${object}.${name}`, text])),
  )
}
