import { readFileSync } from 'node:fs'
import { listSources } from '@mappa/core/layers/source'
import { runningProblem } from '@mappa/core/problems/catalogue/running'
import { hasErrors } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { type Inspection, toReport } from '@mappa/node/load/inspect'
import { EXIT_CONFIG } from '@mappa/node/load/load'
import { listDefinitionParts } from '@mappa/node/project/definition/imports'
import { type ChosenStage, mustBeNamed } from '@mappa/node/project/stage'
import { projectSources } from '@mappa/node/sources/project-sources'
import { listMaskedTexts } from '@mappa/search/mask/masked-texts'
import type { Command } from 'commander'
import { buildEnvironment, findUnfitVariables } from '../../analysis/run/environment.ts'
import { runAndRestart, type Version } from '../../analysis/run/restarts.ts'
import { passSignals } from '../../analysis/run/signals.ts'
import { NotStarted, type Running, startProcess } from '../../analysis/run/start-process.ts'
import type { CommonOptions } from '../../command-line/common-options.ts'
import { withCommonOptions, withProgramOption, withStoreOptions } from '../../command-line/common-options.ts'
import { EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { StageInspector, type StoreChoice } from '../../project/store.ts'
import { printFailure } from '../../terminal/failure.ts'
import { chooseEvents, printNotices, printNotStarted } from './render.ts'

interface RunOptions extends CommonOptions, StoreChoice {
  readonly watch?: boolean
  readonly onlyDeclared?: boolean
  readonly maskOutput?: boolean
  readonly gracePeriod: string
}

/** `mappa run -- COMMAND`: checks the settings of a stage, then starts a command with their values in its environment. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.usage('[options] -- <command...>').argument('<command...>', 'the command and its arguments')
  withStoreOptions(withProgramOption(withCommonOptions(described)))
    .option('--watch', 'start it again when a layer, the store or the definition changes')
    .option('--grace-period <seconds>', 'with --watch: how long it may take to end after SIGTERM', '10')
    .option(
      '--only-declared',
      'pass on nothing but declared settings and what a process needs: PATH, HOME, locale, ...',
    )
    .option('--mask-output', 'replace the values of secrets in what it prints')
    .addHelpText(
      'after',
      `
Nothing is written anywhere. The command has the standard streams, the terminal and the process
group of mappa; signals reach it, and its exit code is the result: 128 and the number of the signal
if one ended it, 127 if it was not found, 126 if it can't be started. If settings are missing or
invalid, it is not started, and the result is 78. With --mask-output the output goes through mappa
and is no terminal for the command; if it is one for mappa, FORCE_COLOR=1 says so.`,
    )
    .action(async (words: readonly string[], options: RunOptions) => {
      try {
        mustBeSeparate(words)
        exitWith(await run(words, options))
      } catch (error) {
        exitWith(failed(error, words))
      }
    })
}

/** Says what kept the command from being started, and what to end with. */
function failed(error: unknown, words: readonly string[]): number {
  if (error instanceof NotStarted) {
    printFailure(error.report)
    return error.exitCode
  }
  const code = printFailure(error)
  if (code !== EXIT_PROBLEMS) return code
  printNotStarted(words)
  return EXIT_CONFIG
}

async function run(words: readonly string[], options: RunOptions): Promise<number> {
  const graceMs = toMilliseconds(options.gracePeriod)
  const project = await Project.open(options)
  const stage = project.stage(options.stage)
  if (project.definition.requireStage) mustBeNamed(stage, project.definition)
  const inspector = await StageInspector.open(project, options, [stage])
  try {
    return await runCommand(inspector, project, stage, words, options, graceMs)
  } finally {
    inspector.close()
  }
}

async function runCommand(
  inspector: StageInspector,
  project: Project,
  stage: ChosenStage,
  words: readonly string[],
  options: RunOptions,
  graceMs: number,
): Promise<number> {
  const version = toVersion(project, inspector.inspect(project, stage), words, options)
  if (options.watch === true) {
    const next = async () => {
      const own = await project.reopen()
      // Told when it started.
      return toVersion(own, { ...inspector.inspect(own, stage), startNotices: [] }, words, options)
    }
    const events = chooseEvents(words)
    const alsoWatch = (changed: () => void) => inspector.watch(stage.stage, changed, events.notWatched)
    return runAndRestart(version, next, graceMs, events, alsoWatch)
  }
  // Before the command starts, since it may be asked to end right then.
  let running: Running | null = null
  const giveBack = passSignals((signal) => running?.send(signal))
  try {
    running = startProcess(version.start)
    return await running.ended
  } finally {
    giveBack()
  }
}

/**
 * What to start, with the settings as they are now.
 *
 * @throws {SettingsError} if they are missing or wrong
 */
function toVersion(project: Project, inspection: Inspection, words: readonly string[], options: RunOptions): Version {
  const { definition, definitionFile, root } = project
  const masks = options.maskOutput === true ? listMaskedTexts(inspection) : null
  const own = [...inspection.problems, ...inspection.startNotices]
  const problems = [...own, ...findUnfitVariables(inspection), ...(masks?.problems ?? [])]
  const report = toReport({ ...inspection, problems })
  if (hasErrors(problems)) throw new SettingsError(report)
  if (problems.length > 0) printNotices(report)
  const [command = '', ...rest] = words
  const environment = {
    ...(masks === null ? {} : chooseColor(process.stdout)),
    ...buildEnvironment(inspection, process.env, options.onlyDeclared === true),
  }
  const { files: parts } = listDefinitionParts(definitionFile!)
  const { sources } = projectSources(definition, root, definition.directory)
  const listPaths = (isDirectory: boolean) =>
    listSources(sources, inspection.stage)
      .filter(({ kind }) => (kind === 'directory') === isDirectory)
      .flatMap((each) => each.paths?.(inspection.stage) ?? [])
  return {
    start: { command, words: rest, environment, masked: masks?.texts ?? null },
    definition: parts.map(getText).join('\n'),
    files: [...parts, ...listPaths(false)],
    directories: listPaths(true),
  }
}

/** Output that is read on the way is no terminal, so the command is told that there is one behind it. */
function chooseColor({ isTTY }: NodeJS.WriteStream): { readonly FORCE_COLOR?: string } {
  return isTTY === true && !process.env.NO_COLOR ? { FORCE_COLOR: '1' } : {}
}

function getText(file: string): string {
  try {
    return readFileSync(file, 'utf8')
  } catch {
    return ''
  }
}

/** Options of the command could be taken for those of mappa, and the other way round. */
function mustBeSeparate(words: readonly string[]): void {
  const given = process.argv.slice(2)
  const at = given.indexOf('--')
  const behind = at < 0 ? 0 : given.length - at - 1
  if (behind !== words.length) throw settingsError(runningProblem('command-unclear', {}))
}

function toMilliseconds(seconds: string): number {
  const number = /^\d{1,4}(?:\.\d+)?$/.test(seconds) ? Number(seconds) : Number.NaN
  if (number >= 0 && number <= 3600) return number * 1000
  throw settingsError(runningProblem('grace-period-wrong', {}))
}
