import type { Resolution } from '@mappa/core/resolve/resolve'
import { findSharedValues } from './across-stages.ts'
import { withCredentials } from './credentials.ts'

/**
 * Stages with everything that is wrong with them: what each has by itself, and what only several together show.
 *
 * @param stages those that are checked together
 */
export function checkStages<Stage extends Resolution>(stages: readonly Stage[]): readonly Stage[] {
  const found = stages.map(withCredentials)
  const shared = findSharedValues(found)
  return found.map((each) => ({
    ...each,
    problems: [...each.problems, ...shared.filter(({ stage }) => stage === each.stage)],
  }))
}
