import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { toMeaning } from '@mappa/core/text/meaning'

/**
 * What the values of one setting mean in several stages: those that mean the same have the same text. A value that breaks a rule in one
 * stage means what the same text means in another. Holds the values, so it goes nowhere.
 *
 * @param found the setting in each stage
 * @returns `null` where there is no value
 */
export function compareMeanings(found: readonly ResolvedSetting[]): readonly (string | null)[] {
  const byText = new Map<string, string>()
  for (const { text, valid, value } of found)
    if (text !== undefined && valid && value !== undefined) byText.set(text, toMeaning(value))
  return found.map(({ text }) => (text === undefined ? null : (byText.get(text) ?? `text ${text}`)))
}
