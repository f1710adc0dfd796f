import type { Declaration } from '@mappa/core/definition/definition'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/** Everything that is wrong with the names of settings that may appear. */
export function checkAllowInPage(settings: readonly Declaration[], names: readonly string[]): Problem[] {
  return names.flatMap((name) => {
    const setting = settings.find((each) => each.name === name)
    const reason = findReason(setting)
    const near = setting === undefined ? makeClosestMatch(settings.map((each) => each.name))(name) : null
    return reason === null ? [] : [pageProblem('allow-in-page-wrong', { name, reason, near }, { name })]
  })
}

function findReason(setting: Declaration | undefined): string | null {
  if (setting === undefined) return 'no setting has that name'
  if (setting.secret) return 'it is a secret'
  return setting.public ? 'it is public anyway' : null
}
