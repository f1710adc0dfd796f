import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import { hasErrors, type Problem } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import type { Command } from 'commander'
import { type FilledFile, fillStages } from '../../analysis/fill/fill-stages.ts'
import { makeDeclaredCheck } from '../../analysis/fill/lookup.ts'
import { fillOutputName } from '../../analysis/fill/output-names.ts'
import { readTemplateFile } from '../../analysis/fill/read-template.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { inspectOutputs, type Output, outputPath, writeOutputs } from '../../project/outputs.ts'
import { Project } from '../../project/project.ts'
import { printFromEnvironment } from '../../terminal/from-environment.ts'
import { printFilled, printText, printUnchecked } from './render.ts'

interface FillOptions extends CommonOptions {
  readonly out?: string
  readonly all?: boolean
  readonly withSecrets?: boolean
  readonly onlyDeclared?: boolean
  readonly verify?: boolean
  readonly force?: boolean
}

/** `mappa fill TEMPLATE...`: puts values into text files. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(command.argument('<template...>', 'text files with placeholders such as ${NAME}'))
    .option('--out <name>', 'the name of the output; {stage}, {name} and {extension} in it are filled in')
    .option('--all', 'one output for each stage of the definition')
    .option('--with-secrets', 'fill secrets in, into files that only their owner can read and git ignores')
    .option('--only-declared', 'leave ${...} alone if no setting has its name, since other programs use $ too')
    .option('--verify', 'write nothing; fail if an output is not current')
    .option('--force', 'overwrite outputs that were changed by hand')
    .addHelpText(
      'after',
      `
Placeholders are \${NAME}, and as in a shell \${NAME:-other}, \${NAME-other}, \${NAME:?why}, \${NAME?why},
\${NAME:+other} and \${NAME+other}; $\${ is a literal \${. Filters make a value fit where it goes, and
stand last: \${NAME|yaml}, \${NAME|json}, \${NAME|xml}, \${NAME|sh}, \${NAME|php}, \${NAME|base64},
\${NAME|url}, \${NAME|indent}, also one behind another: \${NAME:-other|base64|json}. \${MAPPA_STAGE} is the
name of the stage. Outputs in YAML, JSON and PHP are checked by a parser; of others, a notice names the
values to look at. If anything is missing or unknown, nothing is written.`,
    )
    .action(async (names: readonly string[], options: FillOptions) => {
      const project = await Project.open(options)
      const { definition } = project
      const isOurs = options.onlyDeclared === true ? makeDeclaredCheck(definition) : undefined
      const templates = names.map((name) => readTemplateFile(name, isOurs))
      const stages = options.all
        ? listPresentStages(project.root, definition).map((stage) => ({ stage, from: '--all' }))
        : [project.stage(options.stage)]
      const inspections = stages.map((stage) => project.inspect(stage, stages))
      const { out } = options
      if (out === undefined && options.verify === true) throw settingsError(fillingProblem('verify-needs-out', {}))
      if (out === undefined && names.length * stages.length > 1) throw settingsError(outNeeded())
      const chooseName = (template: string, stage: string) =>
        out === undefined ? path.basename(template) : fillOutputName(out, template, stage)
      const { files, problems, environmental } = fillStages(
        templates,
        inspections,
        chooseName,
        options.withSecrets === true,
      )
      mustBeFine(
        problems,
        stages.map(({ stage }) => stage),
      )
      if (out === undefined) printText(files[0]!, options)
      else exitWith(await give(files, project, options))
      printUnchecked(problems)
      printFromEnvironment(environmental)
    })
}

/** Writes outputs, or compares them. */
async function give(files: readonly FilledFile[], { root }: Project, options: FillOptions): Promise<number> {
  const outputs = files.map((each) => asOutput(root, each))
  if (options.verify !== true) {
    printFilled(files, await writeOutputs(root, outputs, options.force === true), root, options)
    return EXIT_OK
  }
  const states = inspectOutputs(root, outputs)
  printFilled(files, states, root, options)
  return states.every(({ isCurrent }) => isCurrent) ? EXIT_OK : EXIT_PROBLEMS
}

function asOutput(root: string, { output, template, text, hasSecrets }: FilledFile): Output {
  const file = outputPath(root, output)
  if (path.resolve(template) === path.join(root, file))
    throw settingsError(fillingProblem('output-is-template', { file }, { file }))
  return { file, text, ownerOnly: hasSecrets, ignoreRule: hasSecrets ? `/${file}` : null }
}

function mustBeFine(problems: readonly Problem[], stages: readonly string[]): void {
  if (!hasErrors(problems)) return
  const title = `Nothing was filled in for ${stages.join(', ')}`
  throw new SettingsError({ title, stage: stages.length === 1 ? stages[0]! : null, problems })
}

/** The words in braces are for the person who reads it. */
function outNeeded(): Problem {
  return fillingProblem('fill-needs-out', { name: '{name}', stage: '{stage}', extension: '{extension}' })
}
