import { fs } from '../../../../mappa/src/node/fs/builtin.ts'
import { languageOf, languageOfScript } from '../../languages/index.ts'
import type { Language } from '../../languages/language.ts'
import type { Source } from '../../languages/source.ts'
import { applySuppressions } from '../../languages/suppressions.ts'
import { type Found, type SurveyCache, withClassification } from './cache.ts'
import { mayCallAddress, withCalls } from './called.ts'
import { classify } from './classify.ts'
import { withCompanions } from './companions.ts'
import { isNoSource } from './no-sources.ts'
import { plausibleIn } from './plausible.ts'
import { mayContainFindings } from './prefilter.ts'
import { withEveryKey } from './query-keys.ts'
import type { UsageCheck } from './usage.ts'

type Stats = import('node:fs').Stats

/** Larger files are skipped, in bytes: they are made by programs. */
const MAX_FILE_BYTES = 1024 * 1024

/** Files that programs write: which packages are installed, what was compiled, packed or generated. */
const MADE =
  /(^|\/)(\.?package-lock\.json|npm-shrinkwrap\.json|composer\.lock|pnpm-lock\.yaml|tsconfig[^/]*\.json|package\.json|[^/]*\.min\.[cm]?js|[^/]*\.d\.[cm]?ts|[^/]*\.(generated|gen)\.\w+|settings\.definition\.\w+)$/

/** Why a file is skipped that no parser takes. */
export const NOT_UNDERSTOOD = 'not understood'

/** What was found in files, by their absolute paths. */
export type ReadyResults = ReadonlyMap<string, Found>

/** True for a file that has to be read: one of a language, not too large, and not remembered. */
export function mustRead(whole: string, file: string, cache: SurveyCache): boolean {
  const language = languageOf(file)
  if (language === null || MADE.test(file)) return false
  try {
    const stats = fs.statSync(whole)
    const isSmall = stats.isFile() && stats.size <= (language.maxBytes ?? MAX_FILE_BYTES)
    return isSmall && !cache.knows(whole, stats)
  } catch {
    return false
  }
}

/**
 * Looks at one file of the sources.
 *
 * @param whole its absolute path
 * @param file the path to name in places
 * @param usage is shown the text, while it asks for more
 * @param read what was found in files that were read before
 * @returns what was found; `null` for a file that is no source
 */
export function scanFile(
  whole: string,
  file: string,
  cache: SurveyCache,
  usage: UsageCheck,
  read: ReadyResults = new Map(),
): Found | null {
  const language = languageOf(file)
  if ((language === null && isNoSource(file)) || MADE.test(file)) return null
  try {
    const stats = fs.statSync(whole)
    if (!stats.isFile()) return null
    const { maxBytes = MAX_FILE_BYTES } = language ?? {}
    if (stats.size > maxBytes) return skipped(`more than ${maxBytes / 1024 / 1024} MiB`)
    if (language === null) return unreadFile(whole, stats, file, cache, usage)
    const known = cache.get(whole, stats, file)
    if (known !== null && !usage.isOpen) return known
    const text = fs.readFileSync(whole, 'utf8')
    if (text.includes('\0')) return skipped('no text: it has a NUL in it')
    usage.look(text)
    if (known !== null) return known
    const found = read.get(whole) ?? findIn(text, file, language)
    cache.put(whole, stats, found, text)
    return found
  } catch (error) {
    // Only the file itself: a parser that can't be loaded is no fault of it.
    if ((error as NodeJS.ErrnoException).syscall === undefined) throw error
    return skipped("can't be read")
  }
}

/** A file whose ending says nothing: a script is read; of all else only what it says of variables counts. */
function unreadFile(whole: string, stats: Stats, file: string, cache: SurveyCache, usage: UsageCheck): Found | null {
  const text = fs.readFileSync(whole, 'utf8')
  // What is no text is no source, whatever it is called.
  if (text.includes('\0')) return null
  usage.look(text)
  const language = languageOfScript(text)
  if (language === null) return skipped(`Mappa does not read ${endingOf(file)}`)
  const known = cache.get(whole, stats, file)
  if (known !== null) return known
  const found = findIn(text, file, language)
  cache.put(whole, stats, found, text)
  return found
}

/** `.vue files`, or the name itself where it has no ending. */
function endingOf(file: string): string {
  const name = file.split('/').at(-1)!
  const dot = name.lastIndexOf('.')
  return dot < 0 ? `files called ${name}` : `${name.slice(dot)} files`
}

/** What a text holds, by its language alone. */
export function findIn(
  text: string,
  file: string,
  { isPrefiltered, readsVariables, mayBeMinified, read }: Language,
): Found {
  if (isPrefiltered && !mayContainFindings(text) && !mayCallAddress(text, file) && readsVariables?.(text) !== true)
    return { ...NOTHING, skipped: null }
  if (mayBeMinified && isMinified(text)) return skipped('minified')
  const source = read(text, file, plausibleIn(text))
  if (source === null) return skipped(NOT_UNDERSTOOD)
  const seen = withCompanions(withCalls(applySuppressions(source.literals, text), text))
  const literals = withEveryKey(seen, (each) => classify(each)?.part !== undefined)
  return { ...source, literals: withClassification(literals), skipped: null }
}

const NOTHING: Source = { literals: [], reads: [] }

function skipped(why: string): Found {
  return { ...NOTHING, skipped: why }
}

/** Made by a program: lines longer than anybody writes, or a comment that says so. */
function isMinified(text: string): boolean {
  const lines = text.split('\n', 200).length
  const head = text.slice(0, 600)
  return (text.length > 4000 && Math.min(text.length, 200_000) / lines > 400) || /@generated\b|do not edit/i.test(head)
}
