import { commandProblem } from '../../../../mappa-settings/src/core/problems/makers/commands.ts'
import { settingsError } from '../../../../mappa-settings/src/core/problems/settings-error.ts'
import { answered } from '../../terminal/interrupted.ts'

/** Asks whether what was shown is to be done. */
export async function askToGoOn(message: string): Promise<boolean> {
  const { confirm } = await import('@inquirer/prompts')
  return answered(
    () => confirm({ message, default: false }),
    () => settingsError(commandProblem('value-not-given', {})),
  )
}
