import type { Command } from 'commander'
import { hasErrors, problem } from '../core/problems/problem.ts'
import { SettingsError } from '../core/problems/settings-error.ts'
import type { ResolvedSetting } from '../core/resolve/resolved-setting.ts'
import { nearestOf } from '../core/text/near.ts'
import { type Inspection, inspectStage } from '../node/load.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from './exit-codes.ts'
import { type CommonOptions, openProject, stageFor, withCommonOptions } from './project.ts'
import { printLayersOf, printSettings } from './render/settings.ts'

interface ShowOptions extends CommonOptions {
  readonly reveal?: boolean
}

/** `mappa show [NAME]`: every value with its origin, or all layers of one. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(command.argument('[name]', 'one setting, by its variable name or its path in code'))
    .option('--reveal', 'show the values of secrets as well')
    .action(async (name: string | undefined, options: ShowOptions) => {
      const project = await openProject(options)
      const { root, definition } = project
      const inspection = inspectStage(definition, stageFor(project, options), { root })
      if (name === undefined) printSettings(inspection, options)
      else printLayersOf(inspection, oneSetting(inspection, name), options)
      const relevant = name === undefined ? inspection.problems : oneSettingProblems(inspection, name)
      exitWith(hasErrors(relevant) ? EXIT_PROBLEMS : EXIT_FINE)
    })
}

function oneSetting({ settings }: Inspection, asked: string): ResolvedSetting {
  const found = settings.find(({ declaration }) => declaration.name === asked || declaration.path === asked)
  if (found !== undefined) return found
  const near = nearestOf(settings.flatMap(({ declaration }) => [declaration.name, declaration.path]))(asked)
  const shown = JSON.stringify(asked.slice(0, 80))
  throw new SettingsError({
    title: 'Settings',
    stage: null,
    problems: [problem('setting-unknown', { asked: shown, near })],
  })
}

function oneSettingProblems(inspection: Inspection, asked: string) {
  const { path } = oneSetting(inspection, asked).declaration
  return inspection.problems.filter((each) => each.setting === path)
}
