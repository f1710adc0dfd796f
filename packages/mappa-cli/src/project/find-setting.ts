import type { Declaration, Definition } from '../../../mappa-settings/src/core/definition/definition.ts'
import { problem } from '../../../mappa-settings/src/core/problems/problem.ts'
import { settingsError } from '../../../mappa-settings/src/core/problems/settings-error.ts'
import { closestMatch } from '../../../mappa-settings/src/core/text/closest-match.ts'

/**
 * The setting that somebody named.
 *
 * @param asked its variable name or its path in code
 * @throws {SettingsError} where there is none, with the nearest one
 */
export function declarationNamed({ settings }: Definition, asked: string): Declaration {
  const found = settings.find(({ name, path }) => name === asked || path === asked)
  if (found !== undefined) return found
  const near = closestMatch(settings.flatMap(({ name, path }) => [name, path]))(asked)
  const shown = JSON.stringify(asked.slice(0, 80))
  throw settingsError(problem('setting-unknown', { asked: shown, near }))
}
