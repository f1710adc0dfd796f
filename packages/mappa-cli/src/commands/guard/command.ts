import { resolve } from 'node:path'
import type { Command } from 'commander'
import { hasErrors } from '../../../../mappa/src/core/problems/problem.ts'
import { currentDirectory } from '../../../../mappa/src/node/project/root.ts'
import { guardProject } from '../../analysis/guard/guard.ts'
import { installHook } from '../../analysis/guard/hook.ts'
import { guardRepository } from '../../analysis/guard/repository.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { printGuard, printHook } from './render.ts'

interface Options extends CommonOptions {
  readonly history?: boolean
  readonly staged?: boolean
  readonly repository?: boolean
  readonly install?: boolean
}

/** `mappa guard [PATHS...]`: looks for secrets where they must not be. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(command.argument('[paths...]', 'more files and directories to search, such as built output'), null)
    .option('--history', 'search every commit, including secrets that were deleted since')
    .option('--staged', 'check staged files only')
    .option('--repository', 'with --staged: check the secrets of every package of the repository, as the hook does')
    .option('--install', 'install a pre-commit hook that runs mappa guard --staged')
    .action(async (paths: string[], options: Options) => {
      if (options.repository === true && options.staged === true) {
        const report = await guardRepository(currentDirectory())
        printGuard(report, currentDirectory(), options)
        exitWith(hasErrors(report.problems) ? EXIT_PROBLEMS : EXIT_FINE)
        return
      }
      const { root, definition } = await Project.open(options)
      if (options.install) {
        printHook(await installHook(root), options)
        exitWith(EXIT_FINE)
        return
      }
      const report = await guardProject(root, definition, { ...options, paths: paths.map((each) => resolve(each)) })
      printGuard(report, root, options)
      exitWith(hasErrors(report.problems) ? EXIT_PROBLEMS : EXIT_FINE)
    })
}
