import { resolve } from 'node:path'
import { movingProblem } from '@mappa/core/problems/catalogue/moving'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import type { Command } from 'commander'
import type { AccessStyle } from '../../analysis/move/access-expression.ts'
import { planMove } from '../../analysis/move/checked-plan.ts'
import { applyPlan } from '../../analysis/move/plan.ts'
import type { Finding } from '../../analysis/survey/findings.ts'
import { surveyProject } from '../../analysis/survey/survey.ts'
import { Option } from '../../command-line/commander.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { printSurvey } from '../survey/render.ts'
import { askForFindings, askToWrite } from './ask.ts'
import { printMoveData, printMoved, printNothingToMove, printNotWritten, printPlan } from './render.ts'

interface MoveOptions extends CommonOptions {
  readonly all?: boolean
  readonly read: AccessStyle
  readonly path?: string
  readonly description?: string
  readonly in?: string[]
  readonly templates?: boolean
  readonly clearOutputs?: boolean
  readonly yes?: boolean
}

/** `mappa move [FINDINGS...]`: moves findings into the layered files, and puts the reading of them in their place. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(
    command.argument('[findings...]', 'numbers or names, as mappa survey lists them; asks one by one if omitted'),
    'the stage of the values in the code (default: as for a program)',
  )
    .option('--all', 'move every finding')
    .addOption(
      new Option('--read <what>', 'what the code will read: typed settings, or process.env')
        .choices(['settings', 'environment'])
        .default('settings'),
    )
    .option('--path <path>', 'the path of the setting, such as dome.key; for one finding')
    .option('--description <text>', 'the description of the setting; for one finding')
    .option('--in <paths...>', 'only consider findings in these files and directories')
    .option('--templates', "make templates for mappa fill of files that can't read variables, such as JSON")
    .option('--clear-outputs', 'remove the outputs of notebooks that show a value that moves')
    .option('--yes', 'write without asking')
    .addHelpText(
      'after',
      `
Shows the whole change first. A secret goes into .env.<stage>.local, which git is told to ignore
before, anything else into .env.<stage>.`,
    )
    .action(async (asked: string[], options: MoveOptions) => {
      const opened = await Project.openWithOrWithoutDefinition(options)
      const { root, definitionIfAny: definition } = opened
      const paths = (options.in ?? []).map((each) => resolve(each))
      const survey = surveyProject(root, definition, { paths })
      const { stage } = opened.stage(options.stage)
      if (survey.findings.length === 0) {
        if (options.json) printNothingToMove(stage)
        else printSurvey(survey, root, definition !== null, options)
        exitWith(EXIT_OK)
        return
      }
      const chosen = await choose(survey.findings, asked, options)
      const project = { root, definition, definitionFile: opened.definitionPlace }
      const plan = await planMove(project, [...chosen.keys()], {
        stage,
        as: options.read,
        asked: paths,
        templates: options.templates === true,
        clearOutputs: options.clearOutputs === true,
        ...listOverrides(chosen),
        surveyed: survey.findings,
      })
      if (!options.json) printPlan(plan, survey.findings, root)
      const writes = plan.moved.length > 0 && (await mayWrite(options))
      if (writes) await applyPlan(root, plan)
      if (options.json) printMoveData(plan, writes)
      else if (writes) printMoved(plan, root)
      else printNotWritten(plan)
      exitWith(plan.left.length > 0 ? EXIT_PROBLEMS : EXIT_OK)
    })
}

/** True if the change is to be written: if that was said, or if somebody at the terminal says so. */
async function mayWrite({ yes, json }: MoveOptions): Promise<boolean> {
  if (yes === true) return true
  return !json && process.stdin.isTTY === true && askToWrite()
}

/** What was wished for a finding, beside that it moves. */
interface Wish {
  readonly path?: string
  readonly description?: string
}

/**
 * The findings to move: those that were named, all, or those that somebody at the terminal picks.
 *
 * @throws {SettingsError} where a name fits none, or nothing was named and nobody is there to ask
 */
async function choose(
  findings: readonly Finding[],
  asked: readonly string[],
  { all, yes, json, path, description }: MoveOptions,
): Promise<ReadonlyMap<Finding, Wish>> {
  if (!all && asked.length === 0) {
    if (yes || json || process.stdin.isTTY !== true) throw refusal([movingProblem('findings-not-chosen', {})])
    return askForFindings(findings)
  }
  const nearest = makeClosestMatch(findings.map(({ name }) => name))
  const problems: Problem[] = []
  const named = asked.flatMap((each) => {
    const found = findings.find(({ number, name, path: own }) => [String(number), name, own].includes(each))
    if (found !== undefined) return [found]
    problems.push(movingProblem('finding-unknown', { asked: JSON.stringify(each.slice(0, 80)), near: nearest(each) }))
    return []
  })
  const chosen = all ? findings : [...new Set(named)].sort((a, b) => a.number - b.number)
  for (const [option, given] of Object.entries({ '--path': path, '--description': description })) {
    if (given !== undefined && chosen.length > 1) {
      problems.push(movingProblem('one-finding-needed', { option, count: chosen.length }))
    }
  }
  if (problems.length > 0) throw refusal(problems)
  const wish = { ...(path === undefined ? {} : { path }), ...(description === undefined ? {} : { description }) }
  return new Map(chosen.map((each) => [each, wish]))
}

function listOverrides(chosen: ReadonlyMap<Finding, Wish>) {
  const readWish = <Key extends keyof Wish>(key: Key) =>
    new Map([...chosen].flatMap(([finding, wish]) => (wish[key] === undefined ? [] : [[finding, wish[key]] as const])))
  return { paths: readWish('path'), descriptions: readWish('description') }
}

function refusal(problems: readonly Problem[]): SettingsError {
  return new SettingsError({ title: 'Nothing was moved', stage: null, problems })
}
