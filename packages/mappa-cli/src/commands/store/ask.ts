import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { settingsError } from '@mappa/core/problems/settings-error'
import { answered } from '../../terminal/interrupted.ts'

/** Asks whether what was shown is to be done. */
export async function confirm(message: string): Promise<boolean> {
  const { confirm } = await import('@inquirer/prompts')
  return answered(
    () => confirm({ message, default: false }),
    () => settingsError(commandProblem('value-not-given', {})),
  )
}
