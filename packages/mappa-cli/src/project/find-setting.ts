import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/**
 * The setting that somebody named.
 *
 * @param asked its variable name or its path in code
 * @throws {SettingsError} where there is none, with the nearest one
 */
export function declarationNamed({ settings }: Definition, asked: string): Declaration {
  const found = settings.find(({ name, path }) => name === asked || path === asked)
  if (found !== undefined) return found
  const near = makeClosestMatch(settings.flatMap(({ name, path }) => [name, path]))(asked)
  const shown = JSON.stringify(asked.slice(0, 80))
  throw settingsError(problem('setting-unknown', { asked: shown, near }))
}
