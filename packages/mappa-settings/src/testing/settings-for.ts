import { writeValue } from '@mappa/core/definition/accept'
import {
  type Definition,
  isDefinition,
  type PathsIn,
  type ProgramOf,
  resolveStage,
  type Values,
} from '@mappa/core/definition/definition'
import { selectProgram } from '@mappa/core/definition/programs'
import { textLayer } from '@mappa/core/layers/sources'
import { testingProblem } from '@mappa/core/problems/catalogue/testing'
import { checkOptionNames, mustBeStage } from '@mappa/core/problems/option-names'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { resolveSettings } from '@mappa/core/resolve/resolve'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/** The paths of the settings of a definition, such as `'dome.key'`. */
export type SettingPath<D> = D extends Definition<infer Tree> ? (unknown extends Tree ? string : PathsIn<Tree>) : never

/** Values by path: texts, as a layer has them, or typed values. */
export type GivenValues<D> = { readonly [Path in SettingPath<D> | `${SettingPath<D>}.former`]?: unknown }

/** Options of {@link settingsFor}. */
export interface TestOptions<Program extends string = string> {
  /**
   * The stage whose rules and defaults hold.
   * @default the first of the definition
   */
  readonly stage?: string
  /**
   * The program whose settings are made, of those that the definition lists.
   * @default the settings of all programs
   */
  readonly program?: Program
}

/**
 * Makes the settings that a program would get, from the defaults of the definition and the given values alone: typed, validated and
 * frozen as `loadSettings` returns them. Reads no file and no environment variable, so a test gets the same on every machine.
 *
 * @param given values by the path of their setting: texts, which are converted, or typed values. `undefined` means not given
 * @returns the settings; a secret is a `Secret`
 * @throws {SettingsError} listing everything that is missing or invalid, and paths that the definition does not have
 * @example
 * ```ts
 * const settings = settingsFor(definition, { 'dome.key': 'drill-0f4c9a7be2d81635', 'server.port': 4100 })
 * settings.server.port // 4100
 * ```
 */
export function settingsFor<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  given?: GivenValues<D>,
  options?: TestOptions<Program>,
): Values<D, Program>
export function settingsFor(definition: Definition, given: object = {}, options: TestOptions = {}): unknown {
  if (!isDefinition(definition))
    throw new TypeError('settingsFor takes what defineSettings returned, or definitionFromJson.')
  checkOptionNames(options, ['stage', 'program'], 'settingsFor')
  const stage = options.stage ?? definition.stages[0]!
  mustBeStage(stage, definition, 'the option stage')
  const byName = findGiven(given, definition, stage)
  const own = selectProgram(definition, options.program, 'the option program')
  const { values, problems } = resolveSettings(own, {
    stage,
    layers: [
      textLayer({
        id: 'the test',
        kind: 'flags',
        getText: (name) => byName.get(name)?.text,
        getTyped: (name) => byName.get(name)?.typed,
        names: () => [...byName.keys()],
      }),
    ],
  })
  if (values === null) throw new SettingsError({ title: TITLE, stage, problems })
  return values
}

const TITLE = 'Settings for a test'

/** What is given, by variable name: a text, or a typed value with the text of it. */
type Given = ReadonlyMap<string, { readonly text: string; readonly typed?: unknown }>

function findGiven(given: object, { settings }: Definition, stage: string): Given {
  const declarations = new Map(settings.map((each) => [each.path, resolveStage(each, stage)]))
  const nearest = makeClosestMatch([...declarations.keys()])
  const found = new Map<string, { text: string; typed?: unknown }>()
  const problems = Object.entries(given).flatMap(([path, value]) => {
    const declaration = declarations.get(path)
    if (declaration === undefined)
      return testingProblem('test-value-unknown', { asked: path, near: nearest(path) }, { setting: path, stage })
    const { name, kind, options } = declaration
    if (typeof value === 'string') found.set(name, { text: value })
    else if (value !== undefined) found.set(name, { text: writeValue(kind, value, options), typed: value })
    return []
  })
  if (problems.length > 0) throw new SettingsError({ title: TITLE, stage, problems })
  return found
}
