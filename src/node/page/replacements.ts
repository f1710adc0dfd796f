import type { Definition } from '../../core/definition/definition.ts'
import { publicFaults } from '../../core/page/public-values.ts'
import { replacementsOf } from '../../core/page/replacements.ts'
import { checkOptionNames } from '../../core/problems/option-names.ts'
import { hasErrors } from '../../core/problems/problem.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { fs, path } from '../builtin.ts'
import { inspectSettings, reportOf, SOURCE_OPTIONS, type SourceOptions } from '../load.ts'
import { findRoot } from '../root.ts'

/** Options of {@link publicReplacements}. */
export interface ReplacementOptions extends SourceOptions {
  /** The objects whose members page code reads; `process.env` and `import.meta.env` if left out. */
  readonly objects?: readonly string[]
}

/**
 * The table of what to put in the place of variables that page code reads, for any bundler that replaces expressions: the
 * texts of public settings that have their values at build time. Private settings may lack their values, as on a machine that has no
 * keys.
 *
 * @param definition the definition; or the path of its file, or of the project that has it, which is loaded then
 * @returns JavaScript by expression, such as `"12"` by `process.env.NIGHT_PLACES`
 * @throws {SettingsError} where public settings of the stage are wrong, or the definition can't be found or loaded
 * @example
 * ```ts
 * const define = publicReplacements(definition, { stage: 'production' })
 * const same = await publicReplacements(import.meta.dirname, { stage: 'production' })
 * ```
 */
export function publicReplacements(definition: Definition, options?: ReplacementOptions): Record<string, string>
export function publicReplacements(path: string, options?: ReplacementOptions): Promise<Record<string, string>>
export function publicReplacements(
  given: Definition | string,
  options: ReplacementOptions = {},
): Record<string, string> | Promise<Record<string, string>> {
  checkOptionNames(options, [...SOURCE_OPTIONS, 'objects'], 'publicReplacements')
  return typeof given === 'string' ? loadAndReplace(given, options) : replacementsFor(given, options)
}

async function loadAndReplace(given: string, options: ReplacementOptions): Promise<Record<string, string>> {
  const [{ findDefinition }, { loadDefinition }] = await Promise.all([
    import('../definition/find.ts'),
    import('../definition/load.ts'),
  ])
  const place = path.resolve(given)
  const isDirectory = fs.statSync(place, { throwIfNoEntry: false })?.isDirectory() === true
  const root = findRoot(isDirectory ? place : path.dirname(place))
  const file = isDirectory ? findDefinition(root) : findDefinition(root, { file: place, from: root })
  return replacementsFor(await loadDefinition(file, root), { root, ...options })
}

function replacementsFor(definition: Definition, { objects, ...sources }: ReplacementOptions): Record<string, string> {
  const inspection = inspectSettings(definition, sources)
  const open = new Set(definition.settings.flatMap((each) => (each.public ? [each.path] : [])))
  // What a page does not get is for others to have.
  const problems = inspection.problems.filter(
    ({ code, setting }) => !((code === 'missing' || code === 'empty') && setting !== null && !open.has(setting)),
  )
  const faults = [...problems, ...publicFaults(inspection.settings)]
  if (hasErrors(faults)) throw new SettingsError({ ...reportOf(inspection), problems: faults })
  const table = replacementsOf(inspection.settings)
  return Object.fromEntries(
    (objects ?? OBJECTS).flatMap((object) => [...table].map(([name, code]) => [`${object}.${name}`, code])),
  )
}

const OBJECTS = ['process.env', 'import.meta.env']
