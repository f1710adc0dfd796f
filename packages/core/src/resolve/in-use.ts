import type { Declaration } from '../definition/definition.ts'
import type { Candidate, MergedLayers } from '../layers/merge.ts'
import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'

/** A value of a setting, and which of the names of the setting it stands under. */
export interface InUse {
  readonly name: string
  readonly candidate: Candidate
}

/**
 * The value that a setting has: under its own name where a layer sets that, else under the first former name that one sets, else
 * its default.
 *
 * @param below looks only at layers of a lower rank than this, if given
 */
export function findValueInUse(
  { name, formerly }: Pick<Declaration, 'name' | 'formerly'>,
  merged: MergedLayers,
  below?: number,
): InUse | undefined {
  const own = merged.winner(name, below)
  if (own === undefined || own.layer.kind === 'defaults') {
    for (const former of formerly) {
      const candidate = merged.winner(former, below)
      if (candidate !== undefined) return { name: former, candidate }
    }
  }
  return own === undefined ? undefined : { name, candidate: own }
}

/** Tells of every former name that a layer still sets. */
export function reportFormerNames(
  { name, path, formerly }: Declaration,
  used: string,
  merged: MergedLayers,
  reporter: Reporter,
): void {
  for (const former of formerly) {
    const old = merged.winner(former)
    if (old === undefined) continue
    const { file, line } = old.origin
    const place = { file, layer: old.layer.title, line, column: old.nameColumn, name: former, setting: path }
    if (former === used) reporter.report(problem('name-former', { former, name }, place))
    else reporter.report(problem('name-former-unused', { former, name: used }, place))
  }
}
