import { hasErrors } from '@mappa/core/problems/problem'
import type { Command } from 'commander'
import {
  type CommonOptions,
  withCommonOptions,
  withProgramOption,
  withStoreOptions,
} from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { StageInspector, type StoreChoice } from '../../project/store.ts'
import { printLayers, printOtherStages, printSettings } from './render.ts'

interface ShowOptions extends CommonOptions, StoreChoice {
  readonly reveal?: boolean
}

/** `mappa show [NAME]`: every value with its origin, or all layers of one. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.argument('[name]', 'one setting, by its variable name or its path in code')
  withStoreOptions(withProgramOption(withCommonOptions(described)))
    .option('--reveal', 'include the values of secrets')
    .action(async (name: string | undefined, options: ShowOptions) => {
      const project = await Project.open(options)
      const stage = project.stage(options.stage)
      const inspector = await StageInspector.open(project, options, [stage])
      inspector.close()
      const inspection = inspector.inspect(project, stage)
      if (name === undefined) {
        printSettings(inspection, options)
        exitWith(hasErrors(inspection.problems) ? EXIT_PROBLEMS : EXIT_OK)
        return
      }
      const { path } = project.setting(name)
      // By its path: in a stage with rules of its own it is another object.
      const setting = inspection.settings.find(({ declaration }) => declaration.path === path)!
      printLayers(inspection, setting, options)
      if (options.json !== true && options.store === undefined) printOtherStages(project, stage, path, options)
      const relevant = inspection.problems.filter(({ setting }) => setting === path)
      exitWith(hasErrors(relevant) ? EXIT_PROBLEMS : EXIT_OK)
    })
}
