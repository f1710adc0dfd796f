import { resolve } from 'node:path'
import type { Declaration } from '@mappa/core/definition/definition'
import { hasErrors } from '@mappa/core/problems/problem'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import { findRepository } from '@mappa/node/git/git'
import { getCurrentDirectory } from '@mappa/node/project/root'
import type { Command } from 'commander'
import type { FormerValue } from '../../analysis/guard/former.ts'
import { type GuardOptions, type GuardReport, guardPackages, guardProject } from '../../analysis/guard/guard.ts'
import { installHook } from '../../analysis/guard/hook.ts'
import { guardRepository } from '../../analysis/guard/repository.ts'
import { Option } from '../../command-line/commander.ts'
import {
  type CommonOptions,
  type FormatOptions,
  withCommonOptions,
  withFormat,
} from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { asJson } from '../../terminal/json.ts'
import { readHidden, readStandardInput } from '../../terminal/prompts.ts'
import { type Places, printProblemsAsSarif } from '../../terminal/sarif.ts'
import { printGuard, printHook } from './render.ts'

interface Options extends CommonOptions, FormatOptions {
  readonly history?: boolean
  readonly staged?: boolean
  readonly strict?: boolean
  readonly repository?: boolean
  readonly install?: boolean
  readonly former?: string
  readonly ownFiles?: boolean
  readonly packages?: readonly string[]
}

/** `mappa guard [PATHS...]`: looks for secrets where they must not be. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.argument('[paths...]', 'more files and directories to search, such as built output')
  withFormat(withCommonOptions(described, null))
    .option('--history', 'search every commit, including secrets that were deleted since')
    .addOption(
      new Option(
        '--former <name>',
        'search for a value as well that a setting had before, such as a replaced key: it is asked for, or read from standard input',
      ).conflicts(['install', 'repository']),
    )
    .option('--strict', 'fail as well where files can only be searched byte by byte, such as images')
    .option('--staged', 'check staged files only')
    .option('--repository', 'with --staged: check the secrets of every package of the repository, as the hook does')
    .option('--install', 'install a pre-commit hook that runs mappa guard --staged')
    // Of a run over many packages: what each does by itself, and what is done once.
    .addOption(new Option('--own-files').hideHelp())
    .addOption(new Option('--packages <directory>').argParser(oneMore).hideHelp())
    .action(async (paths: string[], options: Options) => {
      const tell = (report: GuardReport, places: Places) => {
        print(report, places, options)
        exitWith(hasErrors(report.problems) ? EXIT_PROBLEMS : EXIT_OK)
      }
      const searched = { ...options, paths: paths.map((each) => resolve(each)) }
      if (options.repository === true && options.staged === true) {
        const root = getCurrentDirectory()
        return tell(await guardRepository(root), { root, repository: findRepository(root) })
      }
      if (options.packages !== undefined) {
        const root = resolve(options.root ?? '.')
        const { former: _, ...rest } = searched
        const report = await guardPackages(root, await openAll(options.packages), rest)
        return tell(report, { root, repository: findRepository(root) })
      }
      const { former, ...rest } = searched
      // A former value is one of a setting; all else can be looked for before there are any.
      const project =
        former === undefined ? await Project.openWithOrWithoutDefinition(options) : await Project.open(options)
      if (options.install) return printHook(await installHook(project.root), options)
      const value = former === undefined ? {} : { former: await formerValue(project.setting(former)) }
      tell(await guardWithOrWithoutDefinition(project, { ...rest, ...value }), project)
    })
}

function guardWithOrWithoutDefinition(project: Project, options: GuardOptions): Promise<GuardReport> {
  const { root, definitionIfAny: definition } = project
  if (definition !== null) return guardProject(root, definition, options)
  return options.staged === true ? guardRepository(root) : guardPackages(root, [], options)
}

/** Never a word of the command: others can see those, and the shell keeps them. */
async function formerValue(declaration: Declaration): Promise<FormerValue> {
  const { name, description } = declaration
  const question = `Former value of ${name} (${description})`
  return { declaration, text: await (process.stdin.isTTY ? readHidden(question) : readStandardInput()) }
}

const oneMore = (directory: string, before: readonly string[] = []) => [...before, directory]

/** Those of some projects that can be opened: what is wrong with the others is told where each is looked at by itself. */
async function openAll(roots: readonly string[]): Promise<readonly Project[]> {
  const opened: Project[] = []
  for (const root of roots) {
    try {
      opened.push(await Project.open({ root }))
    } catch (error) {
      if (!isSettingsError(error)) throw error
    }
  }
  return opened
}

function print(report: GuardReport, places: Places, options: Options): void {
  if (options.format === 'sarif') printProblemsAsSarif(report.problems, places)
  else printGuard(report, places.root, asJson(options))
}
