import { resolve } from 'node:path'
import type { Command } from 'commander'
import { surveyProject } from '../../analysis/survey/survey.ts'
import {
  type CommonOptions,
  type FormatOptions,
  withCommonOptions,
  withFormat,
} from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { asJson } from '../../terminal/json.ts'
import { progress } from '../../terminal/progress.ts'
import { printSurveyAsSarif } from '../../terminal/sarif.ts'
import { printSurvey } from './render.ts'

interface SurveyOptions extends CommonOptions, FormatOptions {
  readonly ignored?: boolean
  readonly without?: string[]
}

/** `mappa survey [PATHS...]`: finds settings and keys that still stand in the code, and reads of variables. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const described = command.argument('[paths...]', 'files and directories to scan (default: the whole project)')
  withFormat(withCommonOptions(described, null))
    .option('--ignored', 'also scan what ignore rules exclude')
    .option('--without <directories...>', 'leave out these directories')
    .action(async (paths: string[], options: SurveyOptions) => {
      const project = await Project.openWithOrWithoutDefinition(options)
      const { root, definitionIfAny: definition } = project
      const bar = progress('files scanned')
      const survey = surveyProject(root, definition, {
        paths: paths.map((each) => resolve(each)),
        ignored: options.ignored === true,
        without: (options.without ?? []).map((each) => resolve(each)),
        onProgress: bar.update,
      })
      bar.end()
      if (options.format === 'sarif') printSurveyAsSarif(survey, project)
      else printSurvey(survey, root, definition !== null, asJson(options))
      const isFine = survey.findings.length === 0 && survey.reads.every(({ faults }) => faults.length === 0)
      exitWith(isFine ? EXIT_OK : EXIT_PROBLEMS)
    })
}
