import { resolve } from 'node:path'
import type { Command } from 'commander'
import { surveyProject } from '../../analysis/survey/survey.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { progress } from '../../terminal/progress.ts'
import { printSurvey } from './render.ts'

interface SurveyOptions extends CommonOptions {
  readonly ignored?: boolean
}

/** `mappa survey [PATHS...]`: finds settings and keys that still stand in the code, and reads of variables. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(command.argument('[paths...]', 'files and directories to scan (default: the whole project)'), null)
    .option('--ignored', 'also scan what ignore rules exclude')
    .action(async (paths: string[], options: SurveyOptions) => {
      const { root, definitionIfAny: definition } = await Project.openWithOrWithoutDefinition(options)
      const bar = progress('files scanned')
      const survey = surveyProject(root, definition, {
        paths: paths.map((each) => resolve(each)),
        ignored: options.ignored === true,
        onProgress: bar.update,
      })
      bar.end()
      printSurvey(survey, root, definition !== null, options)
      exitWith(survey.findings.length > 0 ? EXIT_PROBLEMS : EXIT_FINE)
    })
}
