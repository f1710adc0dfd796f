import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { hasErrors } from '@mappa/core/problems/problem'
import type { Inspection } from '@mappa/node/load/inspect'
import { findForeignFiles, listPresentStages } from '@mappa/node/sources/present-stages'
import type { Command } from 'commander'
import { checkStages } from '../../analysis/check/checked-stages.ts'
import { withoutMissingSecrets, withPlaces } from '../../analysis/check/missing.ts'
import {
  type CommonOptions,
  type FormatOptions,
  withCommonOptions,
  withFormat,
  withProgramOption,
  withStoreOptions,
} from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { StageInspector, type StoreChoice } from '../../project/store.ts'
import { asJson } from '../../terminal/json.ts'
import { printProblemsAsSarif } from '../../terminal/sarif.ts'
import { printChecked } from './render.ts'

interface CheckOptions extends CommonOptions, StoreChoice, FormatOptions {
  readonly all?: boolean
  readonly reveal?: boolean
  readonly allowMissingSecrets?: boolean
}

/** `mappa check`: checks one stage, or all. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withFormat(withStoreOptions(withProgramOption(withCommonOptions(command))))
    .option('--all', 'check every stage of the definition')
    .option('--allow-missing-secrets', 'allow missing secrets, as in CI')
    .option('--reveal', 'with --json, include the values of secrets')
    .action(async (options: CheckOptions) => {
      const project = await Project.open(options)
      const { definition } = project
      const stages = options.all
        ? listPresentStages(project.root, definition).map((stage) => ({ stage, from: '--all' }))
        : [project.stage(options.stage)]
      const inspector = await StageInspector.open(project, options, stages)
      inspector.close()
      const inspections = withForeignFiles(
        project,
        checkStages(
          stages
            .map((stage) => inspector.inspect(project, stage))
            .map((each) => (options.allowMissingSecrets === true ? withoutMissingSecrets(each) : each))
            .map(withPlaces),
        ),
      )
      const problems = inspections.flatMap((each) => each.problems)
      if (options.format === 'sarif') printProblemsAsSarif(problems, project)
      else printChecked(inspections, asJson(options))
      exitWith(inspections.some((each) => hasErrors(each.problems)) ? EXIT_PROBLEMS : EXIT_OK)
    })
}

/** With a notice for each file of a stage that does not exist. They belong to no stage, so the first is told of them. */
function withForeignFiles<I extends Inspection>({ root, definition }: Project, [first, ...rest]: readonly I[]): I[] {
  if (first === undefined) return []
  const { stages, stagePatterns } = definition
  const notices = findForeignFiles(root, definition).map(({ file, stage }) =>
    commandProblem(
      'file-of-no-stage',
      { file, stage, stages: [...stages, ...stagePatterns] },
      { file, stage: first.stage },
    ),
  )
  return [{ ...first, problems: [...first.problems, ...notices] }, ...rest]
}
