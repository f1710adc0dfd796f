import type { ResolvedSetting } from '../resolve/resolved-setting.ts'
import { toLiteral } from '../values/literal.ts'

/**
 * What stands in the place of a variable that page code reads: the text of each public setting that has its value at build
 * time, as JavaScript, by variable name. Former names stand for the same.
 */
export function listReplacements(settings: readonly ResolvedSetting[]): ReadonlyMap<string, string> {
  const found = new Map<string, string>()
  for (const { declaration, text } of settings) {
    if (declaration.readAt !== 'build') continue
    for (const name of [declaration.name, ...declaration.formerly]) found.set(name, toLiteral(text)!)
  }
  return found
}
