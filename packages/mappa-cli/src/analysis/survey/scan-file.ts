import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { fs } from '@mappa/node/fs/builtin'
import { detectScriptLanguage, getLanguage } from '@mappa/source'
import type { Language } from '@mappa/source/language'
import type { Source, SourceRead } from '@mappa/source/source'
import { applySuppressions } from '@mappa/source/suppressions'
import { type ScannedFile, type SurveyCache, withClassification } from './cache.ts'
import { mayCallAddress, withCalls } from './called.ts'
import { classify } from './classify.ts'
import { withCompanions } from './companions.ts'
import { isNoSource } from './no-sources.ts'
import { makePlausibilityTest } from './plausible.ts'
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
export type ReadyResults = ReadonlyMap<string, ScannedFile>

/** The language of a source that people write; `null` for what programs write, and for what is in no language. */
export function getSourceLanguage(file: string): Language | null {
  return MADE.test(file) ? null : getLanguage(file)
}

/** The size in bytes above which a source is skipped. */
export function getMaxBytes(language: Language | null): number {
  return language?.maxBytes ?? MAX_FILE_BYTES
}

/** True for a file that has to be read: one of a language, not too large, and not remembered. */
export function mustRead(whole: string, file: string, cache: SurveyCache): boolean {
  const language = getSourceLanguage(file)
  if (language === null) return false
  try {
    const stats = fs.statSync(whole)
    const isSmall = stats.isFile() && stats.size <= getMaxBytes(language)
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
): ScannedFile | null {
  const language = getLanguage(file)
  if ((language === null && isNoSource(file)) || MADE.test(file)) return null
  try {
    const stats = fs.statSync(whole)
    if (!stats.isFile()) return null
    const maxBytes = getMaxBytes(language)
    if (stats.size > maxBytes) return skipped(describeSkip('too-large', maxBytes))
    if (language === null) return scanUnknownFile(whole, stats, file, cache, usage)
    const known = cache.get(whole, stats, file)
    if (known !== null && !usage.isOpen) return known
    const text = fs.readFileSync(whole, 'utf8')
    if (text.includes('\0')) return skipped('no text: it has a NUL in it')
    usage.look(text)
    if (known !== null) return known
    const found = read.get(whole) ?? scanText(text, file, language)
    cache.put(whole, stats, found, text)
    return found
  } catch (error) {
    // Only the file itself: a parser that can't be loaded is no fault of it.
    if ((error as NodeJS.ErrnoException).syscall === undefined) throw error
    return skipped(describeSkip('unreadable'))
  }
}

/** A file whose ending says nothing: a script is read; of all else only what it says of variables counts. */
function scanUnknownFile(
  whole: string,
  stats: Stats,
  file: string,
  cache: SurveyCache,
  usage: UsageCheck,
): ScannedFile | null {
  const text = fs.readFileSync(whole, 'utf8')
  // What is no text is no source, whatever it is called.
  if (text.includes('\0')) return null
  usage.look(text)
  const language = detectScriptLanguage(text)
  if (language === null) return skipped(`Mappa does not read ${getEnding(file)}`)
  const known = cache.get(whole, stats, file)
  if (known !== null) return known
  const found = scanText(text, file, language)
  cache.put(whole, stats, found, text)
  return found
}

/** `.vue files`, or the name itself where it has no ending. */
function getEnding(file: string): string {
  const name = file.split('/').at(-1)!
  const dot = name.lastIndexOf('.')
  return dot < 0 ? `files called ${name}` : `${name.slice(dot)} files`
}

/** What a text holds, by its language alone. */
export function scanText(
  text: string,
  file: string,
  { isPrefiltered, readsVariables, mayBeMinified, read }: Language,
): ScannedFile {
  if (isPrefiltered && !mayContainFindings(text) && !mayCallAddress(text, file) && readsVariables?.(text) !== true)
    return { ...NOTHING, skipped: null }
  if (mayBeMinified && isMinified(text)) return skipped('minified')
  if (mayBeMinified && isGenerated(text)) return skipped('generated by a program, as it says')
  const source = read(text, file, makePlausibilityTest(text))
  if (source === null) return skipped(NOT_UNDERSTOOD)
  const seen = withCompanions(withCalls(applySuppressions(source.literals, text), text))
  const literals = withEveryKey(seen, (each) => classify(each)?.part !== undefined)
  return {
    ...source,
    reads: markAllowed(source.reads, text),
    literals: withClassification(literals),
    skipped: null,
  }
}

/** Reads of which a comment says that they are meant stay reads: the setting that they name is not unused. */
function markAllowed(reads: readonly SourceRead[], text: string): readonly SourceRead[] {
  const others = new Set(applySuppressions(reads, text))
  return others.size === reads.length
    ? reads
    : reads.map((each) => (others.has(each) ? each : { ...each, isAllowed: true }))
}

const NOTHING: Source = { literals: [], reads: [] }

function skipped(why: string): ScannedFile {
  return { ...NOTHING, skipped: why }
}

/** A minified file has no more lines than these that somebody could have written. */
const MOST_WRITTEN_LINES = 20
/** Longer lines are looked at more closely, in characters. */
const LONG_LINE = 500
const SMALLEST_MINIFIED = 4000

/**
 * True for code that a program has packed: nearly all of it in long lines without blanks. A long line of data, or a file of many lines, says
 * nothing.
 */
function isMinified(text: string): boolean {
  if (text.length <= SMALLEST_MINIFIED) return false
  const lines = text.split('\n')
  const packed = lines.filter((line) => line.length > LONG_LINE && isPacked(line))
  const length = packed.reduce((sum, line) => sum + line.length, 0)
  const written = lines.filter((line) => line.length <= LONG_LINE && !/^\s*(?:$|\*|\/[/*])/.test(line)).length
  return length > text.length / 2 && written <= MOST_WRITTEN_LINES
}

/** Code has signs between its names; packed code has hardly any blanks. */
function isPacked(line: string): boolean {
  const sample = line.slice(0, 20_000)
  const count = (pattern: RegExp) => (sample.match(pattern)?.length ?? 0) / sample.length
  return count(/[ \t]/g) < 0.08 && count(/[;{}()=]/g) > 0.06
}

/** True where the first comments say so. That nobody should edit a value says nothing about its file. */
function isGenerated(text: string): boolean {
  const head = text.slice(0, 600)
  const says =
    /@generated\b|\bgenerated\b[\s\S]{0,200}\bdo not (?:edit|modify)\b|\bdo not (?:edit|modify)\b[\s\S]{0,200}\bgenerated\b/i
  return says.test(
    head
      .split('\n')
      .filter((line) => /^\s*(?:\/[/*]|\*|#|<!--|--|;)/.test(line))
      .join('\n'),
  )
}
