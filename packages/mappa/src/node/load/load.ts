import { type Definition, isDefinition, type Values } from '../../core/definition/definition.ts'
import type { Layer } from '../../core/layers/layer.ts'
import { layerPaths } from '../../core/layers/order.ts'
import type { Source } from '../../core/layers/source.ts'
import { checkOptionNames } from '../../core/problems/option-names.ts'
import { hasErrors, locate, type Problem } from '../../core/problems/problem.ts'
import { formatReport, type Report } from '../../core/problems/report.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { type Resolution, resolveSettings } from '../../core/resolve/resolve.ts'
import { fs, path } from '../fs/builtin.ts'
import { isRegularFile } from '../fs/regular-file.ts'
import { chooseRoot } from '../project/root.ts'
import { type ChosenStage, chooseStage } from '../project/stage.ts'
import { type ParsedFlags, parseFlags } from '../sources/flags/flags.ts'
import { flagsHelp } from '../sources/flags/help.ts'
import { namesOf, projectSources } from '../sources/project-sources.ts'
import {
  givenEnvironment,
  type ProcessEnvironment,
  processEnvironment,
  unclearValues,
} from '../sources/runtime-environment.ts'
import { terminalStyle } from './terminal.ts'

const { existsSync, readFileSync } = fs
const { basename, join, resolve } = path

/** EX_CONFIG of sysexits.h: something is wrong with the configuration. */
export const EXIT_CONFIG = 78

/** Where to look for values. */
export interface SourceOptions {
  /**
   * The stage to load.
   * @default `MAPPA_STAGE`, else `NODE_ENV` if it names a stage, else the first of the definition
   */
  readonly stage?: string
  /**
   * The directory of the layer files; or a URL such as `import.meta.url`, for the nearest `package.json` at or above that module,
   * wherever the program is started.
   * @default the nearest directory with a `package.json` or `settings.definition.json`, at or above the current one
   */
  readonly root?: string | URL
  /**
   * The process environment, taken as it is.
   * @default `process.env`, without what the runtime itself put there from env files
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
}

/** Options of {@link loadSettings}. */
export interface LoadOptions extends SourceOptions {
  /**
   * What to do if settings are missing or wrong: `throw` a {@link SettingsError}, or print the report to standard error and `exit` the
   * process with 78 (EX_CONFIG of sysexits.h).
   * @default 'throw'
   */
  readonly onErrors?: 'throw' | 'exit'
  /**
   * The command line, such as `process.argv.slice(2)`: `--server-port 5000` sets `server.port`, `--no-dome-motors` says no,
   * `--help` and `--version` print and end the process with 0. Secrets are refused.
   * @default flags are not read
   */
  readonly flags?: readonly string[]
  /**
   * Is called with the notices of settings that can be used, and a report of them for `formatReport`.
   * @default they are printed to standard error
   */
  readonly onNotices?: (notices: readonly Problem[], report: Report) => void
}

/** Everything that was found out about one stage of a project. */
export interface Inspection<D extends Definition = Definition> extends Resolution<D> {
  /** The directory of the project. */
  readonly root: string
  /** What decided that, as text. */
  readonly rootFrom: string
  /** What named the stage, as text. */
  readonly stageFrom: string
}

/** The stage of each tree of values that was loaded. */
const stages = new WeakMap<object, string>()

/**
 * The stage that settings were loaded for.
 *
 * @param settings what `loadSettings` gave back, whole
 * @throws {TypeError} for anything else
 * @example
 * ```ts
 * stageOf(settings) // 'production'
 * ```
 */
export function stageOf(settings: object): string {
  const stage = stages.get(settings)
  if (stage === undefined) throw new TypeError('stageOf takes what loadSettings gave back, whole.')
  return stage
}

/**
 * Loads the settings of a program: reads the layers, converts and checks everything, and returns all values,
 * typed, frozen and complete. Synchronous, so that it can stand at the top of a module that others import.
 *
 * @param definition what `defineSettings` made
 * @throws {SettingsError} with everything that is wrong, unless `onErrors` says to exit
 * @example
 * ```ts
 * import { loadSettings } from 'mappa/node'
 * import definition from './settings.definition.ts'
 *
 * export const settings = loadSettings(definition)
 * ```
 */
export function loadSettings<D extends Definition>(definition: D, options: LoadOptions = {}): Values<D> {
  try {
    checkOptionNames(options, LOAD_OPTIONS, 'loadSettings')
    mustBeDefinition(definition, 'loadSettings')
    return accepted(inspectSettings(definition, sourcesIn(definition, options)), options)
  } catch (error) {
    return refused(error, options)
  }
}

/**
 * The values of settings that are good; notices are told.
 *
 * @throws {SettingsError} where they are not
 */
export function accepted<D extends Definition>(
  inspection: Inspection<D>,
  { onNotices = printNotices }: Pick<LoadOptions, 'onNotices'>,
): Values<D> {
  const { problems, values, stage } = inspection
  if (values === null) throw new SettingsError(reportOf(inspection))
  stages.set(values as object, stage)
  const told = problems.filter(isNews)
  if (told.length > 0) onNotices(told, { stage, problems: told })
  return values
}

/** Throws an error, or prints its report and ends the process if that was asked for. */
export function refused(error: unknown, options: Pick<LoadOptions, 'onErrors'>): never {
  if (!(error instanceof SettingsError) || (options?.onErrors ?? 'throw') === 'throw') throw error
  printReport(error.report)
  process.exit(EXIT_CONFIG)
}

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
export function inspectSettings<D extends Definition>(definition: D, options: SourceOptions = {}): Inspection<D> {
  checkOptionNames(options, SOURCE_OPTIONS, 'inspectSettings')
  mustBeDefinition(definition, 'inspectSettings')
  return inspectStage(definition, stageOfOptions(definition, options), options)
}

/** Without what is missing only because a store could not be read: nobody knows whether it is there. */
function withoutGuesses({ problems, layers }: Resolution): readonly Problem[] {
  const isUnread = layers.some(({ kind, state }) => kind === 'store' && state === 'unreadable')
  return isUnread ? problems.filter(({ code }) => code !== 'missing') : problems
}

/** The stage that options, or else the environment, name. */
export function stageOfOptions(definition: Definition, options: SourceOptions): ChosenStage {
  const asked = options.stage === undefined ? undefined : { stage: options.stage, from: 'the option stage' }
  return { ...chooseStage(definition.stages, environmentOf(options), asked), unasked: asked === undefined }
}

/** The stage that the environment chose last in this process, by the directory of the project. */
export const unaskedStages = new Map<string, string>()

/** The names of the options of {@link SourceOptions}. */
export const SOURCE_OPTIONS = ['stage', 'root', 'environment', 'extraLayers', 'directory'] as const
export const LOAD_OPTIONS = [...SOURCE_OPTIONS, 'onErrors', 'flags', 'onNotices'] as const

/** Where to look for values, the flags of the command line among them. Answers those that ask for something. */
export function sourcesIn(definition: Definition, options: LoadOptions): SourceOptions {
  const { onErrors: _, flags: given, onNotices: __, ...sources } = options
  if (given === undefined) return sources
  const flags = parseFlags(definition, given)
  answer(flags, definition, options)
  return { ...sources, extraLayers: [...(options.extraLayers ?? []), flags.layer] }
}

/** @throws {TypeError} for anything else than a definition */
export function mustBeDefinition(definition: unknown, where: string): void {
  if (isDefinition(definition)) return
  throw new TypeError(`${where} takes what defineSettings gave back, or definitionFromJson.`)
}

/** What was told already in this process: a notice about the whole process need not come again with each call. */
const toldOnce = new Set<string>()

function isNews({ code, message }: Problem): boolean {
  if (code !== 'stage-assumed') return true
  if (toldOnce.has(message)) return false
  toldOnce.add(message)
  return true
}

/**
 * The same for a stage that was chosen already, by the command line for example.
 *
 * @param more sources beside those of the project, such as a store
 */
export function inspectStage<D extends Definition>(
  definition: D,
  { stage, from, problems: ofStage = [], unasked }: ChosenStage,
  options: SourceOptions = {},
  more: readonly Source[] = [],
): Inspection<D> {
  const environment = environmentOf(options)
  const { root, from: rootFrom } = chooseRoot(options.root)
  if (unasked) unaskedStages.set(root, stage)
  const directory = options.directory === undefined ? definition.directory : options.directory
  const { sources, problems } = projectSources(definition, root, directory, environment.values, more)
  const layers = [...sources.map((each) => each.read(stage)), ...(options.extraLayers ?? [])]
  const exists = (file: string) => existsSync(resolve(root, file))
  const resolution = resolveSettings(definition, { stage, layers, exists, root })
  const unclear = unclearValues(environment, namesOf(definition), root, layerPaths(stage, definition.layersFrom))
  const beside = [...ofStage, ...problems(stage), ...unclear].map((each) => locate(each, { stage }))
  return {
    ...resolution,
    values: hasErrors(beside) ? null : resolution.values,
    problems: [...withoutGuesses(resolution), ...beside],
    root,
    rootFrom,
    stageFrom: from,
  }
}

function environmentOf({ environment }: SourceOptions): ProcessEnvironment {
  return environment === undefined ? processEnvironment(process.env) : givenEnvironment(environment)
}

/** Prints what `--help` or `--version` ask for, and ends the process. */
function answer({ help, version }: ParsedFlags, definition: Definition, options: LoadOptions): void {
  if (!help && !version) return
  const { paint, width } = terminalStyle(process.stdout)
  const program = basename(process.argv[1] ?? 'program')
  const { root } = chooseRoot(options.root)
  const text = help ? flagsHelp(definition, program, Math.min(width ?? 100, 100), paint) : versionOf(root)
  process.stdout.write(`${text}\n`)
  process.exit(0)
}

/** The version that the program's `package.json` has. */
function versionOf(root: string): string {
  const file = join(root, 'package.json')
  try {
    if (!isRegularFile(file)) return 'no version'
    return String((JSON.parse(readFileSync(file, 'utf8')) as { version?: unknown }).version ?? 'no version')
  } catch {
    return 'no version'
  }
}

/** What a report about an inspection is made from. */
export function reportOf({ stage, problems, layers, root, rootFrom }: Inspection): Report {
  return { stage, problems, layers, root, rootFrom }
}

function printNotices(_notices: readonly Problem[], report: Report): void {
  printReport(report)
}

/** Prints a report to standard error. A program that loads its settings has nobody else to do it. */
export function printReport(report: Report): void {
  process.stderr.write(`${formatReport(report, terminalStyle(process.stderr))}\n`)
}
