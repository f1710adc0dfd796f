import { posix } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { bytewise, findHitsInCode, type SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { SkippedPart } from '@mappa/search/read/coverage'
import type { Search } from './search.ts'

/** A file of a page. */
export interface SearchedFile {
  readonly file: string
  readonly bytes: Buffer
  /** The directory that messages put before its name. */
  readonly shownBelow?: string | undefined
}

/** What is wrong with a file of a page. */
export interface Leaks {
  readonly problems: readonly Problem[]
  /** What of the file nobody could read. */
  readonly skipped: readonly SkippedPart[]
}

/**
 * Looks through one file of a page, its name included.
 *
 * @param settings what is known of the settings whose values are searched
 */
export function findLeaks(
  { file, bytes, shownBelow = '' }: SearchedFile,
  { needles }: Search,
  settings: readonly ResolvedSetting[],
): Leaks {
  const named = findHitsInCode(bytewise(file), needles).map((hit) => ({ ...hit, encoding: ', in its name' }))
  const { hits, skipped } = searchContent(file, bytes, needles)
  const shown = named.length > 0 ? withoutName(file, needles, shownBelow) : posix.join(shownBelow, file)
  const problems = [...named, ...hits].map(({ name, setting: path, encoding }) => {
    const own = settings.find((each) => each.declaration.path === path)
    // What no setting declares is looked for only where it is a secret.
    const secret = own === undefined || own.masked
    const place = { file: shown, name, setting: path }
    return secret
      ? pageProblem('value-in-page', { name, file: shown, encoding }, place)
      : pageProblem('private-in-page', { name, path, file: shown, encoding }, place)
  })
  return { problems, skipped }
}

/** What is shown of a file whose name gives a value away: the last directory above that does not. */
function withoutName(file: string, needles: readonly SearchedSecret[], shownBelow: string): string {
  let directory = posix.dirname(file)
  while (directory !== '.' && findHitsInCode(bytewise(directory), needles).length > 0)
    directory = posix.dirname(directory)
  const shown = posix.join(shownBelow, directory)
  return shown === '.' ? 'a file' : `a file in ${shown}`
}
