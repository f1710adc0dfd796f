import type { ResolvedSetting } from '../resolve/resolved-setting.ts'

/**
 * What stands in the place of a variable that page code reads: the text of each public setting that has its value at build
 * time, by variable name; `undefined` for one that is left out. Former names stand for the same.
 */
export function listReplacements(settings: readonly ResolvedSetting[]): ReadonlyMap<string, string | undefined> {
  const found = new Map<string, string | undefined>()
  for (const { declaration, text } of settings) {
    if (declaration.readAt !== 'build') continue
    for (const name of [declaration.name, ...declaration.formerly]) found.set(name, text)
  }
  return found
}
