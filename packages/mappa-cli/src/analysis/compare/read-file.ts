import { EnvDocument } from '../../../../mappa-settings/src/core/envfile/document.ts'
import { commandProblem } from '../../../../mappa-settings/src/core/problems/makers/commands.ts'
import { SettingsError, settingsError } from '../../../../mappa-settings/src/core/problems/settings-error.ts'
import { fs, path } from '../../../../mappa-settings/src/node/fs/builtin.ts'
import { readEnvLayer } from '../../../../mappa-settings/src/node/sources/env-files.ts'

/**
 * Reads an env file that somebody named.
 *
 * @param directory where relative paths begin
 * @throws {SettingsError} if it is not there or can't be read
 */
export function readEnvFile(directory: string, name: string): EnvDocument {
  const file = path.resolve(directory, name)
  if (!fs.existsSync(file)) throw settingsError(commandProblem('file-not-there', { file: name }, { file: name }))
  const { state, problems } = readEnvLayer(directory, name)
  if (state === 'unreadable') throw new SettingsError({ title: 'The files', stage: null, problems })
  return EnvDocument.fromBytes(fs.readFileSync(file), { file: name })
}
