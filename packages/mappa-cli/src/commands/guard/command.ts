import { resolve } from 'node:path'
import type { Command } from 'commander'
import { hasErrors } from '../../../../mappa/src/core/problems/problem.ts'
import { currentDirectory } from '../../../../mappa/src/node/project/root.ts'
import { type GuardReport, guardProject } from '../../analysis/guard/guard.ts'
import { installHook } from '../../analysis/guard/hook.ts'
import { guardRepository } from '../../analysis/guard/repository.ts'
import {
  type CommonOptions,
  type FormatOptions,
  withCommonOptions,
  withFormat,
} from '../../command-line/common-options.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { repositoryOf } from '../../project/git/git.ts'
import { Project } from '../../project/project.ts'
import { asJson } from '../../terminal/json.ts'
import { type Places, printProblemsAsSarif } from '../../terminal/sarif.ts'
import { printGuard, printHook } from './render.ts'

interface Options extends CommonOptions, FormatOptions {
  readonly history?: boolean
  readonly staged?: boolean
  readonly repository?: boolean
  readonly install?: boolean
}

/** `mappa guard [PATHS...]`: looks for secrets where they must not be. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.argument('[paths...]', 'more files and directories to search, such as built output')
  withFormat(withCommonOptions(described, null))
    .option('--history', 'search every commit, including secrets that were deleted since')
    .option('--staged', 'check staged files only')
    .option('--repository', 'with --staged: check the secrets of every package of the repository, as the hook does')
    .option('--install', 'install a pre-commit hook that runs mappa guard --staged')
    .action(async (paths: string[], options: Options) => {
      if (options.repository === true && options.staged === true) {
        const report = await guardRepository(currentDirectory())
        print(report, { root: currentDirectory(), repository: repositoryOf(currentDirectory()) }, options)
        exitWith(hasErrors(report.problems) ? EXIT_PROBLEMS : EXIT_FINE)
        return
      }
      const project = await Project.open(options)
      const { root, definition } = project
      if (options.install) {
        printHook(await installHook(root), options)
        exitWith(EXIT_FINE)
        return
      }
      const report = await guardProject(root, definition, { ...options, paths: paths.map((each) => resolve(each)) })
      print(report, project, options)
      exitWith(hasErrors(report.problems) ? EXIT_PROBLEMS : EXIT_FINE)
    })
}

function print(report: GuardReport, places: Places, options: Options): void {
  if (options.format === 'sarif') printProblemsAsSarif(report.problems, places)
  else printGuard(report, places.root, asJson(options))
}
