import type { Definition, ProgramOf, Values } from '@mappa/core/definition/definition'
import { selectProgram } from '@mappa/core/definition/programs'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import type { Problem } from '@mappa/core/problems/problem'
import { formatReport, type Report } from '@mappa/core/problems/report'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../fs/builtin.ts'
import { isRegularFile } from '../fs/regular-file.ts'
import { chooseRoot } from '../project/root.ts'
import { type ParsedFlags, parseFlags } from '../sources/flags/flags.ts'
import { flagsHelp } from '../sources/flags/help.ts'
import {
  type Inspection,
  inspectSettings,
  mustBeDefinition,
  OPTION_PROGRAM,
  SOURCE_OPTIONS,
  type SourceOptions,
  toReport,
} from './inspect.ts'
import { terminalStyle } from './terminal.ts'

const { readFileSync } = fs
const { basename, join } = path

/** EX_CONFIG of sysexits.h: something is wrong with the configuration. */
export const EXIT_CONFIG = 78

/** Options of {@link loadSettings}. */
export interface LoadOptions<Program extends string = string> extends SourceOptions<Program> {
  /**
   * What to do if settings are missing or wrong: `throw` a {@link SettingsError}, or print the report to standard error and `exit` the
   * process with 78 (EX_CONFIG of sysexits.h).
   * @default 'throw'
   */
  readonly onErrors?: 'throw' | 'exit'
  /**
   * The command line, such as `process.argv.slice(2)`: `--server-port 5000` sets `server.port`, `--no-dome-motors` and
   * `--dome-motors false` say no, `-h`, `--help` and `--version` print and end the process with 0. Secrets are refused, and so is
   * every other word before `--`.
   * @default flags are not read
   */
  readonly flags?: readonly string[]
  /**
   * True if the command line also has arguments of the program itself, which are left alone: words and short options such as `-v`.
   * @default false: they are only allowed behind `--`
   */
  readonly allowPositionals?: boolean
  /**
   * Is called with the notices of settings that can be used, and a report of them for `formatReport`.
   * @default they are printed to standard error
   */
  readonly onNotices?: (notices: readonly Problem[], report: Report) => void
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
 * import { loadSettings } from 'mappa-settings/node'
 * import definition from './settings.definition.ts'
 *
 * export const settings = loadSettings(definition)
 * ```
 */
export function loadSettings<D extends Definition, const Program extends ProgramOf<D> = never>(
  definition: D,
  options?: LoadOptions<Program>,
): Values<D, Program>
export function loadSettings(definition: Definition, options: LoadOptions = {}): unknown {
  try {
    checkOptionNames(options, LOAD_OPTIONS, 'loadSettings')
    mustBeDefinition(definition, 'loadSettings')
    return valuesOrThrow(inspectSettings(definition, chooseSources(definition, options)), options)
  } catch (error) {
    return failOrExit(error, options)
  }
}

/**
 * The values of settings that are good; notices are told.
 *
 * @throws {SettingsError} where they are not
 */
export function valuesOrThrow<V>(
  inspection: Inspection<Definition, V>,
  { onNotices = printNotices }: Pick<LoadOptions, 'onNotices'>,
): V {
  const { problems, values, stage, startNotices } = inspection
  if (values === null) throw new SettingsError(toReport(inspection))
  stages.set(values as object, stage)
  const told = [...problems, ...startNotices].filter(isNews)
  if (told.length > 0) onNotices(told, { stage, problems: told })
  return values
}

/** Throws an error, or prints its report and ends the process if that was asked for. */
export function failOrExit(error: unknown, options: Pick<LoadOptions, 'onErrors'>): never {
  if (!(error instanceof SettingsError) || (options?.onErrors ?? 'throw') === 'throw') throw error
  printReport(error.report)
  process.exit(EXIT_CONFIG)
}

export const LOAD_OPTIONS = [...SOURCE_OPTIONS, 'onErrors', 'flags', 'allowPositionals', 'onNotices'] as const

/** Where to look for values, the flags of the command line among them. Answers those that ask for something. */
export function chooseSources(whole: Definition, options: LoadOptions): SourceOptions {
  const definition = selectProgram(whole, options.program, OPTION_PROGRAM)
  const { onErrors: _, flags: given, allowPositionals, onNotices: __, ...sources } = options
  if (given === undefined && allowPositionals !== undefined)
    throw new TypeError('The option allowPositionals has no effect without the option flags.')
  if (given === undefined) return sources
  if (!Array.isArray(given)) throw new TypeError('The option flags takes a list, such as process.argv.slice(2).')
  const flags = parseFlags(definition, given, allowPositionals)
  answer(flags, definition, options)
  return { ...sources, extraLayers: [...(options.extraLayers ?? []), flags.layer] }
}

/**
 * Notices that this process has reported: one about the whole process is reported once, not with each call. A framework may bundle this
 * module several times into one server, so all copies share them.
 */
const reportedNotices = ((globalThis as Shared)[Symbol.for('mappa-settings/reported-notices@1')] ??= new Set())

interface Shared {
  [reported: symbol]: Set<string> | undefined
}

/** Codes of what is about the whole process. */
const ABOUT_PROCESS: readonly string[] = ['stage-assumed', 'stage-not-named', 'environment-loaded']

/** True for a notice that this process has not reported yet, where it is one about the whole process. */
export function isNews({ code, message }: Problem): boolean {
  if (!ABOUT_PROCESS.includes(code)) return true
  if (reportedNotices.has(message)) return false
  reportedNotices.add(message)
  return true
}

/** Prints what `--help` or `--version` ask for, and ends the process. */
function answer({ help, version }: ParsedFlags, definition: Definition, options: LoadOptions): void {
  if (!help && !version) return
  const { paint, width } = terminalStyle(process.stdout)
  const program = basename(process.argv[1] ?? 'program')
  const { root } = chooseRoot(options.root)
  const text = help ? flagsHelp(definition, program, Math.min(width ?? 100, 100), paint) : findVersion(root)
  process.stdout.write(`${text}\n`)
  process.exit(0)
}

/** The version that the program's `package.json` has. */
function findVersion(root: string): string {
  const file = join(root, 'package.json')
  try {
    if (!isRegularFile(file)) return 'no version'
    return String((JSON.parse(readFileSync(file, 'utf8')) as { version?: unknown }).version ?? 'no version')
  } catch {
    return 'no version'
  }
}

function printNotices(_notices: readonly Problem[], report: Report): void {
  printReport(report)
}

/** Prints a report to standard error. A program that loads its settings has nobody else to do it. */
export function printReport(report: Report): void {
  process.stderr.write(`${formatReport(report, terminalStyle(process.stderr))}\n`)
}
