import { valuesModule } from '@mappa/core/page/browser-module'
import { BROWSER } from './modules.ts'

const IMPORT = /^import\s*\{\s*settings\s*\}\s*from\s*(['"])virtual:mappa\/browser\1/m
/** The name wherever it stands, but for members of other things. */
const NAME = /(?<![\w$.])settings(?![\w$])((?:\??\.[A-Za-z_$][\w$]*)*)/g

/**
 * The usual case of narrowing what a module imports, without parsing it: one import, and everything else that is called so reads a
 * setting by its name. A word of a text or a comment counts as well; that only costs time.
 *
 * @param paths the paths of the public settings
 * @returns the new code, with the same lines; `null` where it takes a parser to tell
 */
export function narrowByText(code: string, paths: ReadonlySet<string>): string | null {
  const found = IMPORT.exec(code)
  if (found === null || code.indexOf(BROWSER) !== code.lastIndexOf(BROWSER)) return null
  const before = code.slice(0, found.index)
  const after = code.slice(found.index + found[0].length)
  for (const [, chain = ''] of `${before}\n${after}`.matchAll(NAME)) {
    const keys = chain.split(/\??\./).slice(1)
    if (!keys.some((_, index) => paths.has(keys.slice(0, index + 1).join('.')))) return null
  }
  return `${before}import * as settings from '${valuesModule(BROWSER, '')}'${after}`
}
