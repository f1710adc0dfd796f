import { type Definition, isDefinition, type ProgramOf, type Values } from '@mappa/core/definition/definition'
import { selectProgram } from '@mappa/core/definition/programs'
import type { Layer } from '@mappa/core/layers/layer'
import { sortLayers } from '@mappa/core/layers/order'
import type { Source } from '@mappa/core/layers/source'
import { readLayers } from '@mappa/core/layers/source'
import { environmentLayer } from '@mappa/core/layers/sources'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import { hasErrors, type Problem, withLocation } from '@mappa/core/problems/problem'
import type { Report } from '@mappa/core/problems/report'
import { type Resolution, resolveSettings } from '@mappa/core/resolve/resolve'
import { fs, path } from '../fs/builtin.ts'
import { applyBuildStage } from '../project/build-stage.ts'
import { chooseRoot } from '../project/root.ts'
import { type ChosenStage, chooseStage, describeAssumed, mustBeNamed } from '../project/stage.ts'
import { withoutLoaded } from '../sources/environment/loaded-values.ts'
import {
  chooseEnvironment,
  type ProcessEnvironment,
  processEnvironment,
} from '../sources/environment/process-environment.ts'
import { listNames, projectSources } from '../sources/project-sources.ts'
import { type OwnEnvironment, readFilled, withoutFilled } from './filled-environment.ts'

/** Where to look for values. */
export interface SourceOptions<Program extends string = string> {
  /**
   * The stage to load.
   * @default `MAPPA_STAGE`, else `NODE_ENV` if it names a stage, else the one of the build, else the first of the definition
   */
  readonly stage?: string
  /**
   * The program whose settings are loaded, of those that the definition lists: what only others need is neither asked for nor returned.
   * @default the settings of all programs
   */
  readonly program?: Program
  /**
   * The directory of the layer files; or a URL such as `import.meta.url`, for the nearest `package.json` at or above that module,
   * wherever the program is started.
   * @default the nearest directory with a `package.json` or `settings.definition.json`, at or above the current one
   */
  readonly root?: string | URL
  /**
   * The process environment, taken as it is.
   * @default `process.env`, without what a runtime, a framework or another loader put there from env files
   */
  readonly environment?: Readonly<Record<string, string | undefined>>
  /**
   * Layers above all others, lowest first, such as one that the program makes itself.
   * @default none
   */
  readonly extraLayers?: readonly Layer[]
  /**
   * A directory with one file for each variable; `null` for none.
   * @default that of the definition
   */
  readonly directory?: string | null
  /**
   * True if a stage has to be named, by the option `stage` or the environment.
   * @default that of the definition
   */
  readonly requireStage?: boolean
  /**
   * The stage that the program was built for, as a bundler can write it into the code. It holds where nothing names a stage; another one
   * that is named is an error, since values of the build are of this one.
   * @default the program was built for no stage
   */
  readonly buildStage?: string | undefined
  /**
   * True if a program may be started for another stage than it was built for, as where one build is for all stages.
   * @default false
   */
  readonly allowOtherStage?: boolean
}

/** Everything that was found out about one stage of a project. */
export interface Inspection<D extends Definition = Definition, V = Values<D>> extends Resolution<D, V> {
  /** The directory of the project. */
  readonly root: string
  /** What decided that, as text. */
  readonly rootFrom: string
  /** What named the stage, as text. */
  readonly stageFrom: string
  /** What a program tells once when it starts, beside the problems: that nothing named its stage. */
  readonly startNotices: readonly Problem[]
}

/** The names of the options of {@link SourceOptions}. */
export const SOURCE_OPTIONS = [
  'stage',
  'program',
  'root',
  'environment',
  'extraLayers',
  'directory',
  'requireStage',
  'buildStage',
  'allowOtherStage',
] as const

/** What names a program, for messages. */
export const OPTION_PROGRAM = 'the option program'

/**
 * Finds out everything about the settings of one stage without ending anything: values, origins and problems.
 *
 * @throws {SettingsError} where the stage is none of the definition
 * @example
 * ```ts
 * const { settings, problems } = inspectSettings(definition, { stage: 'staging' })
 * for (const { declaration, origin } of settings) console.log(declaration.name, origin?.layer) // DOME_URL .env.staging
 * ```
 */
export function inspectSettings<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  options?: SourceOptions<Program>,
): Inspection<D, Values<D, Program>>
export function inspectSettings(definition: Definition, options: SourceOptions = {}): Inspection {
  checkOptionNames(options, SOURCE_OPTIONS, 'inspectSettings')
  mustBeDefinition(definition, 'inspectSettings')
  return inspectStage(definition, chooseOptionStage(definition, options), options)
}

/**
 * The same for a stage that was chosen already, by the command line for example.
 *
 * @param more sources beside those of the project, such as a store
 */
export function inspectStage<D extends Definition>(
  whole: D,
  chosen: ChosenStage,
  options: SourceOptions = {},
  more: readonly Source[] = [],
): Inspection<D> {
  const definition = selectProgram(whole, options.program, OPTION_PROGRAM)
  const { stage, from, problems: ofStage = [], unasked } = chosen
  const { root, from: rootFrom } = chooseRoot(options.root)
  if (unasked) defaultedStages.set(root, stage)
  const directory = options.directory === undefined ? definition.directory : options.directory
  const store = more.find(({ kind }) => kind === 'store')?.read(stage) ?? null
  const { environment, problems: ofOthers } = buildEnvironment(definition, stage, { ...options, root }, store)
  const { sources, problems } = projectSources(definition, root, directory, more)
  const below = readLayers(sources, stage)
  const names = listNames(definition)
  const except = readFilled(environment.values).names
  const { layersFrom } = definition
  const own = withoutLoaded(environment, { stage, root, layersFrom, layers: below, names, except })
  const variables = environmentLayer(own.environment.values)
  const layers = [...sortLayers([...below, variables]), ...(options.extraLayers ?? [])]
  const exists = (file: string) => fs.existsSync(path.resolve(root, file))
  const resolution = resolveSettings(definition, { stage, layers, exists, root })
  const beside = [...ofStage, ...ofOthers, ...problems(stage), ...own.problems].map((each) =>
    withLocation(each, { stage }),
  )
  return {
    ...resolution,
    values: hasErrors(beside) ? null : resolution.values,
    problems: [...withoutGuesses(resolution), ...beside],
    root,
    rootFrom,
    stageFrom: from,
    startNotices: describeAssumed(chosen, definition),
  }
}

/** Without what is missing only because a store could not be read: nobody knows whether it is there. */
function withoutGuesses({ problems, layers }: Resolution): readonly Problem[] {
  const isUnread = layers.some(({ kind, state }) => kind === 'store' && state === 'unreadable')
  return isUnread ? problems.filter(({ code }) => code !== 'missing') : problems
}

/** The environment without what Mappa itself put there. */
function buildEnvironment(
  definition: Definition,
  stage: string,
  options: SourceOptions & { readonly root: string },
  store: Layer | null,
): OwnEnvironment {
  const environment = getEnvironment(options)
  if (!environment.values.MAPPA_FILLED) return { environment, problems: [] }
  const listTexts = (each: string) => {
    const found = inspectStage(definition, { stage: each, from: '' }, { ...options, environment: {}, extraLayers: [] })
    return new Map(found.settings.map(({ declaration, text }) => [declaration.name, text]))
  }
  const { root } = options
  const of = { stage, root, names: listNames(definition), stages: definition.stages, store }
  return withoutFilled(environment, of, listTexts)
}

function getEnvironment({ environment }: SourceOptions): ProcessEnvironment {
  return environment === undefined ? processEnvironment(process.env) : chooseEnvironment(environment)
}

/**
 * The stage that options, or else the environment, name.
 *
 * @throws {SettingsError} if none is named, and one has to be
 */
export function chooseOptionStage(definition: Definition, options: SourceOptions): ChosenStage {
  const asked = options.stage === undefined ? undefined : { stage: options.stage, from: 'the option stage' }
  const named = chooseStage(definition, getEnvironment(options), asked, chooseRoot(options.root).root)
  const chosen = applyBuildStage(definition, named, options)
  if (options.requireStage ?? definition.requireStage) mustBeNamed(chosen, definition)
  return { ...chosen, unasked: asked === undefined }
}

/** The stage that the environment chose last in this process, by the directory of the project. */
export const defaultedStages = new Map<string, string>()

/** @throws {TypeError} for anything else than a definition */
export function mustBeDefinition(definition: unknown, where: string): void {
  if (isDefinition(definition)) return
  throw new TypeError(`${where} takes what defineSettings gave back, or definitionFromJson.`)
}

/** What a report about an inspection is made from. */
export function toReport(inspection: Omit<Inspection<Definition, unknown>, 'stageFrom' | 'startNotices'>): Report {
  const { stage, program, problems, layers, root, rootFrom } = inspection
  return { stage, program, problems, layers, root, rootFrom }
}
