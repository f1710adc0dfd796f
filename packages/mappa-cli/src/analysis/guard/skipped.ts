import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { type Coverage, countTypes, type SkippedPart } from '@mappa/search/read/coverage'

/**
 * Takes what of a file was not understood.
 *
 * @param label what the file is called
 * @param isNamed true for a file that somebody named: what is encrypted in it was asked for
 */
export function takeSkipped(
  coverage: Coverage,
  label: string,
  skipped: readonly SkippedPart[],
  { isNamed = false }: { readonly isNamed?: boolean } = {},
): void {
  for (const each of skipped) {
    const isAskedFor = isNamed && each.reason === 'encrypted'
    coverage.skipPart(label, isAskedFor ? { ...each, reason: 'encrypted-named' } : each)
  }
}

/** What was asked for and could not be looked at, as text. */
export function describeFailed({ failed }: Coverage): readonly string[] {
  return failed.map(({ label, reason }) => `${label}: ${describeSkip(reason)}`)
}

/** An error for each thing that was asked for and could not be looked at. */
export function reportFailed({ failed }: Coverage): readonly Problem[] {
  return failed.map(({ label, reason }) =>
    guardProblem('not-searched', { what: label, why: describeSkip(reason) }, { file: null }),
  )
}

/** An error for each type of what only a program of its own could open, for whoever asks that nothing is. */
export function reportOpaque({ opaque }: Coverage): readonly Problem[] {
  return countTypes(opaque).map(({ type, count }) => {
    const examples = opaque.filter((each) => each.type === type).map(({ label }) => label)
    return guardProblem('not-understood', { type, count, examples: examples.slice(0, 3) })
  })
}
