import type { FindValues } from '@mappa/core/page/public-values'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { bytewise, findHitsInText, toNeedles } from './needles.ts'

/** Makes what looks for values as in everything else that is searched: in every spelling. */
export function findEverywhere(hidden: readonly ResolvedSetting[]): FindValues {
  const needles = hidden.flatMap(({ declaration: { name, path }, text, value }) => toNeedles(name, path, text!, value))
  return (text) => new Set(findHitsInText(bytewise(text), needles).map(({ name }) => name))
}
