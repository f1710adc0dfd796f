import type { Definition } from '../../core/definition/definition.ts'
import { encodingsOf, isSearchable } from '../../core/guard/encodings.ts'
import { guardProblem } from '../../core/problems/of-commands.ts'
import type { Problem } from '../../core/problems/problem.ts'
import type { Inspection } from '../load.ts'

/** A secret to look for, in all its encodings. */
export interface Needle {
  readonly name: string
  readonly setting: string
  readonly patterns: readonly { readonly encoding: string; readonly bytes: Buffer }[]
}

/** Where a secret was found. */
export interface Hit {
  readonly name: string
  readonly setting: string
  /** In words, with a comma before them; empty where the value stands as it is. */
  readonly encoding: string
}

/**
 * What to look for: the values of all secrets in all stages.
 *
 * @returns the needles, and a notice for each secret that can't be searched for
 */
export function needlesOf(inspections: readonly Inspection<Definition>[]): { needles: Needle[]; problems: Problem[] } {
  const needles: Needle[] = []
  const problems: Problem[] = []
  const seen = new Set<string>()
  for (const { settings } of inspections) {
    for (const { declaration, text, masked } of settings) {
      if (!masked || text === undefined || text === '' || seen.has(`${declaration.name}=${text}`)) continue
      seen.add(`${declaration.name}=${text}`)
      const { name, path: setting } = declaration
      if (!isSearchable(text)) {
        if (!problems.some((each) => each.name === name))
          problems.push(guardProblem('secret-not-searchable', { name }, { name, setting }))
        continue
      }
      const patterns = encodingsOf(text).map((each) => ({
        encoding: each.encoding,
        bytes: Buffer.from(each.text, 'latin1'),
      }))
      needles.push({ name, setting, patterns })
    }
  }
  return { needles, problems }
}

/** Looks for secrets in bytes; each secret is told of once. */
export function hitsIn(bytes: Buffer, needles: readonly Needle[]): Hit[] {
  const hits: Hit[] = []
  for (const { name, setting, patterns } of needles) {
    const found = patterns.find((pattern) => bytes.includes(pattern.bytes))
    if (found !== undefined && !hits.some((hit) => hit.name === name))
      hits.push({ name, setting, encoding: found.encoding })
  }
  return hits
}
