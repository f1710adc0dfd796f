import { EnvDocument } from '@mappa/core/envfile/document'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { readEnvLayer } from '@mappa/node/sources/env-files'

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
