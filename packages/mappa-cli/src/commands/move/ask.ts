import { isPathKey } from '@mappa/core/definition/naming'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { Finding } from '../../analysis/survey/findings.ts'
import { answered } from '../../terminal/interrupted.ts'

/**
 * Asks at the terminal, finding by finding, whether it moves and as what.
 *
 * @returns the findings that move, with the path and the description that were typed for each
 * @throws {SettingsError} where a question was left unanswered, with Ctrl+C for example
 */
export async function askForFindings(
  findings: readonly Finding[],
): Promise<ReadonlyMap<Finding, { path: string; description?: string }>> {
  const chosen = new Map<Finding, ChosenFinding>()
  return answered(async () => {
    for (const finding of findings) {
      const answer = await askForFinding(finding)
      if (answer === 'end') break
      if (answer !== 'leave') chosen.set(finding, answer)
    }
    return chosen
  }, unanswered)
}

async function askForFinding(finding: Finding): Promise<ChosenFinding | 'leave' | 'end'> {
  const { input, select } = await import('@inquirer/prompts')
  const { number, masked, places, why, path, name } = finding
  const { file, line, column } = places[0]!
  const more = places.length > 1 ? ` and ${places.length - 1} more` : ''
  const answer = await select({
    message: `${number}. ${escapeInvisible(why)}, ${masked}, at ${escapeInvisible(file)}:${line}:${column}${more}`,
    choices: [
      { name: `move it, as ${path} (${name})`, value: 'move' },
      { name: 'move it to another path', value: 'path' },
      { name: 'skip it', value: 'leave' },
      { name: 'skip it and all that follow', value: 'end' },
    ],
  })
  if (answer === 'leave' || answer === 'end') return answer
  const wished = answer === 'move' ? path : await input({ message: 'Path', default: path, validate: isPath })
  const description = (await input({ message: 'Description (optional)' })).trim()
  return description === '' ? { path: wished } : { path: wished, description }
}

/** What was typed for a finding that moves. */
interface ChosenFinding {
  readonly path: string
  readonly description?: string
}

/** Asks whether what was shown is to be written. */
export async function askToWrite(): Promise<boolean> {
  const { confirm } = await import('@inquirer/prompts')
  return answered(() => confirm({ message: 'Write all of this?', default: false }), unanswered)
}

function isPath(text: string): true | string {
  return (text.includes('.') && text.split('.').every(isPathKey)) || 'Enter names separated by dots, such as dome.key.'
}

function unanswered(): SettingsError {
  const problems = [commandProblem('value-not-given', {})]
  return new SettingsError({ title: 'Nothing was moved', stage: null, problems })
}
