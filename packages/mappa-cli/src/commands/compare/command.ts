import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { hasErrors } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import type { Command } from 'commander'
import { checkStages } from '../../analysis/check/checked-stages.ts'
import { compareStages } from '../../analysis/compare/stages.ts'
import { applyFilter, type Compared, FILTERS, type Filter } from '../../analysis/compare/table.ts'
import { Option } from '../../command-line/commander.ts'
import {
  type CommonOptions,
  withCommonOptions,
  withProgramOption,
  withStoreOptions,
} from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { StageInspector, type StoreChoice } from '../../project/store.ts'
import { printComparison } from './render.ts'

interface CompareOptions extends CommonOptions, StoreChoice {
  readonly only?: Filter
}

/** `mappa compare [STAGE...]`: stages side by side, or env files. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.argument('[stage...]', 'stages, all if none is named; or env files, each taken by itself')
  withStoreOptions(withProgramOption(withCommonOptions(described, null)))
    .addOption(
      new Option('--only <rows>', 'only rows that differ, have problems, or lack a value').choices([...FILTERS]),
    )
    .addHelpText(
      'after',
      `
Values are compared by what they mean: 1kB and 1000 are the same size. Secrets are not shown; equal ones
have the same mark, which is another one in every run.`,
    )
    .action(async (names: readonly string[], options: CompareOptions) => {
      const files = names.filter(isEnvFile)
      if (files.length > 0 && files.length < names.length)
        throw settingsError(commandProblem('stages-and-files', { files }))
      if (files.length > 0 && options.program !== undefined)
        throw settingsError(commandProblem('program-with-files', { files }))
      // Loaded for files alone: stages are compared far more often.
      const { ofFiles } = files.length > 0 ? await import('./files.ts') : { ofFiles: null }
      const { comparison, problems } = ofFiles !== null ? await ofFiles(files, options) : await ofStages(names, options)
      printComparison(comparison, applyFilter(comparison, options.only), problems, options)
      exitWith(hasErrors(problems) ? EXIT_PROBLEMS : EXIT_OK)
    })
}

/** True for the path of a file, as no stage is called: a name with a dot or a slash in it. */
function isEnvFile(name: string): boolean {
  return /[./\\]/.test(name)
}

async function ofStages(names: readonly string[], options: CompareOptions): Promise<Compared> {
  const project = await Project.open(options)
  const stages = names.length > 0 ? [...new Set(names)] : listPresentStages(project.root, project.definition)
  const chosen = stages.map((name) => project.stage(name, 'the argument of mappa compare'))
  const inspector = await StageInspector.open(project, options, chosen)
  inspector.close()
  const inspections = checkStages(chosen.map((stage) => inspector.inspect(project, stage)))
  return { comparison: compareStages(inspections), problems: inspections.flatMap((each) => each.problems) }
}
