import type { Command } from 'commander'
import { hasErrors } from '../../../../mappa/src/core/problems/problem.ts'
import {
  type CommonOptions,
  inspect,
  openProject,
  stageFor,
  withCommonOptions,
} from '../../command-line/common-options.ts'
import { declarationOf } from '../../command-line/declaration.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { printLayersOf, printSettings } from './render.ts'

interface ShowOptions extends CommonOptions {
  readonly reveal?: boolean
}

/** `mappa show [NAME]`: every value with its origin, or all layers of one. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(command.argument('[name]', 'one setting, by its variable name or its path in code'))
    .option('--reveal', 'include the values of secrets')
    .action(async (name: string | undefined, options: ShowOptions) => {
      const project = await openProject(options)
      const { definition } = project
      const inspection = inspect(project, stageFor(definition, options))
      if (name === undefined) {
        printSettings(inspection, options)
        exitWith(hasErrors(inspection.problems) ? EXIT_PROBLEMS : EXIT_FINE)
        return
      }
      const declaration = declarationOf(definition, name)
      printLayersOf(inspection, inspection.settings.find((each) => each.declaration === declaration)!, options)
      const relevant = inspection.problems.filter((each) => each.setting === declaration.path)
      exitWith(hasErrors(relevant) ? EXIT_PROBLEMS : EXIT_FINE)
    })
}
