import { listWords, type NameMeaning, classifyMeaning as ownMeaningOf } from '@mappa/core/credentials/words'

/** Words in the plural for things that are not alike, or that are one thing: `credentials: { user, region }`. */
const NOT_ALIKE = /^(?:credentials|pass|address|services|servers|sources|hooks|bases)$/

/**
 * What a row of names says about a value, the innermost first and foremost.
 *
 * @param names as in `SourceLiteral`
 * @param variable the variable that the value stands in for
 */
export function classifyMeaning(names: readonly string[], variable: string | null = null): NameMeaning {
  const own = ownMeaningOf(names, variable)
  return own ?? classifyEach(names.at(-2))
}

/**
 * What a name in the plural says of each value under it: `ports: { dome: 4100 }`, `urls: { camera: '...' }`,
 * `apiKeys: { weather: '...' }`.
 */
export function classifyEach(name: string | undefined): NameMeaning {
  const last = listWords(name ?? '').at(-1)
  if (last === undefined || !last.endsWith('s') || NOT_ALIKE.test(last)) return null
  if (last === 'ports') return 'port'
  const meaning = ownMeaningOf([name!])
  return meaning === 'address' || meaning === 'secret' ? meaning : null
}
