import type { Definition } from '../../core/definition/definition.ts'
import { type Finding, findingsOf } from '../../core/survey/findings.ts'
import { languageOf, readLines } from '../../core/survey/lines.ts'
import { type Read, readsOf } from '../../core/survey/reads.ts'
import { applySilence } from '../../core/survey/silence.ts'
import type { Source, SourceLiteral, SourceRead } from '../../core/survey/source.ts'
import { isWorthParsing } from '../../core/survey/worth.ts'
import { fs, path } from '../builtin.ts'
import { type FileOptions, sourceFiles } from './files.ts'
import { readJavaScript } from './javascript.ts'

/** Larger files are passed over, in bytes: they are made by programs. */
const LARGEST = 1024 * 1024

/** What a survey found. */
export interface Survey {
  readonly findings: readonly Finding[]
  readonly reads: readonly Read[]
  /** Settings of the definition that nothing reads; empty where there is no definition. */
  readonly unread: readonly string[]
  readonly files: number
  /** Files that were passed over, and why, in words. */
  readonly passedOver: readonly { readonly file: string; readonly why: string }[]
}

/** Options of {@link surveyProject}. */
export interface SurveyOptions extends FileOptions {
  /** Whole paths to look at; the whole project if left out. */
  readonly paths?: readonly string[]
  /** Is told how far it got, now and then. */
  readonly onProgress?: (done: number, all: number) => void
}

/**
 * Goes through the sources of a project for values that should be settings, and for reads of variables.
 *
 * @param definition the settings there are; `null` in a project that has none yet
 */
export function surveyProject(root: string, definition: Definition | null, options: SurveyOptions = {}): Survey {
  const files = sourceFiles(root, options.paths?.length ? options.paths : [root], options)
  const literals: SourceLiteral[] = []
  const reads: SourceRead[] = []
  const passedOver: { file: string; why: string }[] = []
  const usage = new UsageCheck(definition)
  let count = 0
  for (const [index, whole] of files.entries()) {
    if (index % 50 === 0) options.onProgress?.(index, files.length)
    const file = shownPath(root, whole)
    const text = readSource(whole, file, passedOver)
    if (text === null) continue
    count++
    usage.look(text)
    const source = readFile(text, file, passedOver)
    if (source === null) continue
    // One by one: a large file may hold more than a call takes.
    for (const literal of applySilence(source.literals, text)) literals.push(literal)
    for (const read of source.reads) reads.push(read)
  }
  const found = readsOf(reads, definition)
  return {
    findings: findingsOf(literals, definition?.settings ?? []),
    reads: found,
    unread: usage.unread(new Set(found.map((each) => each.name))),
    files: count,
    passedOver,
  }
}

/** A path below the root is shown from there, another one whole. */
function shownPath(root: string, whole: string): string {
  const inner = path.relative(root, whole).replaceAll('\\', '/')
  return inner.startsWith('..') ? whole : inner
}

const JAVASCRIPT = /\.([cm]?[jt]sx?)$/

function readFile(text: string, file: string, passedOver: { file: string; why: string }[]): Source | null {
  if (JAVASCRIPT.test(file)) {
    if (!isWorthParsing(text)) return { literals: [], reads: [] }
    if (isMinified(text)) {
      passedOver.push({ file, why: 'minified' })
      return null
    }
    const source = readJavaScript(text, file)
    if (source === null) passedOver.push({ file, why: 'not understood' })
    return source
  }
  const language = languageOf(file)
  if (language === null) return null
  // Data has no reads, so that only values count.
  if (language.reads.length === 0 && !isWorthParsing(text)) return { literals: [], reads: [] }
  return readLines(text, file, language)
}

function readSource(whole: string, file: string, passedOver: { file: string; why: string }[]): string | null {
  if (!JAVASCRIPT.test(file) && languageOf(file) === null) return null
  // Files that say which packages are installed are written by programs.
  if (
    /(^|\/)(\.?package-lock\.json|npm-shrinkwrap\.json|composer\.lock|pnpm-lock\.yaml|tsconfig[^/]*\.json|package\.json|[^/]*\.min\.[cm]?js|[^/]*\.d\.[cm]?ts|settings\.definition\.\w+)$/.test(
      file,
    )
  )
    return null
  try {
    if (fs.statSync(whole).size > LARGEST) {
      passedOver.push({ file, why: 'more than 1 MiB' })
      return null
    }
    const text = fs.readFileSync(whole, 'utf8')
    return text.includes('\0') ? null : text
  } catch {
    passedOver.push({ file, why: "can't be read" })
    return null
  }
}

/** Made by a program: lines longer than anybody writes, or a comment that says so. */
function isMinified(text: string): boolean {
  const lines = text.split('\n', 200).length
  const head = text.slice(0, 600)
  return (text.length > 4000 && Math.min(text.length, 200_000) / lines > 400) || /@generated\b|do not edit/i.test(head)
}

/** Finds out which settings of a definition no source reads, by path or by name. */
class UsageCheck {
  private readonly open: Map<string, { last: string; pattern: RegExp }>

  constructor(definition: Definition | null) {
    this.open = new Map(
      (definition?.settings ?? []).map(({ name, keys }) => {
        const last = keys.at(-1)!
        const group = keys.at(-2)
        // `settings.dome.key`, or `{ key } = settings.dome`.
        const path =
          group === undefined
            ? `\\b${last}\\b`
            : `\\b${group}\\b[\\s\\S]{0,200}?\\b${last}\\b|\\b${last}\\b[\\s\\S]{0,200}?\\b${group}\\b`
        return [name, { last, pattern: new RegExp(path) }]
      }),
    )
  }

  look(text: string): void {
    for (const [name, { last, pattern }] of this.open) {
      if (text.includes(last) && pattern.test(text)) this.open.delete(name)
    }
  }

  unread(readNames: ReadonlySet<string>): string[] {
    return [...this.open.keys()].filter((name) => !readNames.has(name))
  }
}
