import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { type Problem, problem } from '@mappa/core/problems/problem'
import { settingsError } from '@mappa/core/problems/settings-error'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/**
 * The setting that somebody named.
 *
 * @param asked its variable name or its path in code
 * @throws {SettingsError} where there is none, with the nearest one
 */
export function declarationNamed({ settings, elsewhere, program }: Definition, asked: string): Declaration {
  const isMeant = ({ name, path }: Declaration) => name === asked || path === asked
  const found = settings.find(isMeant)
  if (found !== undefined) return found
  const other = elsewhere.find(isMeant)
  if (other !== undefined && program !== null) throw settingsError(reportOther(other, program))
  const near = makeClosestMatch(settings.flatMap(({ name, path }) => [name, path]))(asked)
  const shown = JSON.stringify(asked.slice(0, 80))
  throw settingsError(problem('setting-unknown', { asked: shown, near }))
}

function reportOther({ name, path, programs }: Declaration, program: string): Problem {
  return problem('setting-of-other-program', { name, path, program, programs: programs ?? [] }, { name, setting: path })
}
