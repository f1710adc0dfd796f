import { languageOf, readLines } from '../../core/survey/lines.ts'
import { mayContainFindings } from '../../core/survey/prefilter.ts'
import type { Source } from '../../core/survey/source.ts'
import { applySuppressions } from '../../core/survey/suppressions.ts'
import { fs } from '../builtin.ts'
import { type Found, type SurveyCache, withClassification } from './cache.ts'
import { readJavaScript } from './javascript.ts'
import type { UsageCheck } from './usage.ts'

/** Larger files are skipped, in bytes: they are made by programs. */
const MAX_FILE_BYTES = 1024 * 1024

const JAVASCRIPT = /\.([cm]?[jt]sx?)$/

/** Files that programs write: which packages are installed, what was compiled, packed or generated. */
const MADE =
  /(^|\/)(\.?package-lock\.json|npm-shrinkwrap\.json|composer\.lock|pnpm-lock\.yaml|tsconfig[^/]*\.json|package\.json|[^/]*\.min\.[cm]?js|[^/]*\.d\.[cm]?ts|[^/]*\.(generated|gen)\.\w+|settings\.definition\.\w+)$/

/** Code, pages and configuration in which values stand as well, and which nothing here reads. */
const UNREAD =
  /\.(vue|svelte|astro|ipynb|html?|hbs|ejs|erb|twig|liquid|tf|tfvars|hcl|xml|plist|gradle|csproj|swift|dart|exs?|clj|lua|pl|pm|r|jl|ps1|bat|cmd|fish|c|cc|cpp|h|hpp|m|mm|sql|graphql|nix|bicep|mdx)$|(^|\/)(Makefile|Jenkinsfile|Procfile|Vagrantfile)$/i

/** Why a file is skipped that no parser takes. */
export const NOT_UNDERSTOOD = 'not understood'

/**
 * Looks at one file of the sources.
 *
 * @param whole its absolute path
 * @param file the path to name in places
 * @param usage is shown the text, while it asks for more
 * @returns what was found; `null` for a file that is no source
 */
export function lookAt(whole: string, file: string, cache: SurveyCache, usage: UsageCheck): Found | null {
  const isRead = JAVASCRIPT.test(file) || languageOf(file) !== null
  if ((!isRead && !UNREAD.test(file)) || MADE.test(file)) return null
  try {
    const stats = fs.statSync(whole)
    if (!stats.isFile()) return null
    if (stats.size > MAX_FILE_BYTES) return skipped('more than 1 MiB')
    if (!isRead) {
      const text = fs.readFileSync(whole, 'utf8')
      usage.look(text)
      // A page that only names its scripts holds no values.
      if (/\.html?$/i.test(file) && !/<script(?![^>]*\bsrc=)[^>]*>\s*\S/i.test(text)) return null
      return skipped(`Mappa does not read ${endingOf(file)}`)
    }
    const known = cache.get(whole, stats, file)
    if (known !== null && !usage.isOpen) return known
    const text = fs.readFileSync(whole, 'utf8')
    if (text.includes('\0')) return skipped('no text: it has a NUL in it')
    usage.look(text)
    if (known !== null) return known
    const found = read(text, file)
    cache.put(whole, stats, found, text)
    return found
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === undefined) throw error
    return skipped("can't be read")
  }
}

/** `.vue files`, or the name itself where it has no ending. */
function endingOf(file: string): string {
  const name = file.split('/').at(-1)!
  const dot = name.lastIndexOf('.')
  return dot < 0 ? `a ${name}` : `${name.slice(dot)} files`
}

function read(text: string, file: string): Found {
  const source = JAVASCRIPT.test(file) ? readScript(text, file) : readOther(text, file)
  if (typeof source === 'string') return skipped(source)
  return { literals: withClassification(applySuppressions(source.literals, text)), reads: source.reads, skipped: null }
}

const NOTHING: Source = { literals: [], reads: [] }

function skipped(why: string): Found {
  return { ...NOTHING, skipped: why }
}

function readScript(text: string, file: string): Source | string {
  if (!mayContainFindings(text)) return NOTHING
  if (isMinified(text)) return 'minified'
  return readJavaScript(text, file) ?? NOT_UNDERSTOOD
}

function readOther(text: string, file: string): Source {
  const language = languageOf(file)!
  // Data has no reads, so that only values count.
  return language.reads.length === 0 && !mayContainFindings(text) ? NOTHING : readLines(text, file, language)
}

/** Made by a program: lines longer than anybody writes, or a comment that says so. */
function isMinified(text: string): boolean {
  const lines = text.split('\n', 200).length
  const head = text.slice(0, 600)
  return (text.length > 4000 && Math.min(text.length, 200_000) / lines > 400) || /@generated\b|do not edit/i.test(head)
}
