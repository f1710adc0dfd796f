import { posix } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { bytewise, findHitsInCode } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { SkippedPart } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import type { Search } from './wanted.ts'

/** A file of a page. */
export interface SearchedFile {
  readonly file: string
  /** What is in it; nothing where that could not be read, and only its name can be looked at. */
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
  const shown = posix.join(shownBelow, showPath(file, needles).path)
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
