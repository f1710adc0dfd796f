import { isStageName } from '@mappa/core/definition/naming'
import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { chooseRoot } from '@mappa/node/project/root'
import type { Command } from 'commander'
import { isUnfinished, setUpProject } from '../../analysis/init/init.ts'
import { planPackages } from '../../analysis/init/packages.ts'
import type { OpenSecret } from '../../analysis/init/relocate.ts'
import { summarizeProject } from '../../analysis/init/summary.ts'
import { findWrongValues } from '../../analysis/init/wrong-values.ts'
import type { CommonOptions } from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { workspacePatterns } from '../../project/workspaces.ts'
import { askForStages, askToMoveSecrets } from '../../terminal/prompts.ts'
import { initPackages } from './packages.ts'
import { printSetUp, printSummary } from './render.ts'

interface InitOptions extends CommonOptions {
  readonly yes?: boolean
}

/** `mappa init`: sets a project up. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  command
    .option('--yes', 'do not ask; accept what is proposed')
    .option(
      '--root <directory>',
      'the directory of the project (default: the nearest one with a package.json or settings.definition.json)',
    )
    .option('--json', 'print JSON')
    .action(async (options: InitOptions) => {
      const root = chooseRoot(options.root).root
      const asks = !options.yes && !options.json && process.stdin.isTTY === true
      let chosen: readonly string[] | null = null
      const stagesLike = async (fitting: readonly string[]) => {
        chosen ??= asks ? await askForStages(fitting, isStageName) : fitting
        return chosen
      }
      if (options.root === undefined && workspacePatterns(root) !== null) {
        const plan = await planPackages(root, stagesLike)
        if (
          plan.packages.length + plan.defined.length > 1 ||
          plan.packages.some(({ each }) => each.directory !== '.')
        ) {
          exitWith(await initPackages(plan, options))
          return
        }
      }
      const summary = summarizeProject(root)
      if (!options.json) printSummary(summary)
      const stages = summary.definition === null ? await stagesLike(DEFAULT_STAGES) : DEFAULT_STAGES
      const mayMove = async (secrets: readonly OpenSecret[]) =>
        options.yes === true || (asks && (await askToMoveSecrets(secrets)))
      const setUp = await setUpProject(root, summary, stages, mayMove)
      const wrong = await findWrongValues(root)
      printSetUp({ ...setUp, wrong }, summary, options)
      exitWith(isUnfinished(setUp) || wrong.length > 0 ? EXIT_PROBLEMS : EXIT_OK)
    })
}
