import { fs } from '@mappa/node/fs/builtin'
import type { Source, SourceLiteral, SourceRead } from '@mappa/source/source'
import { cacheFile, readOwn, writeOwn } from '../../project/own-cache.ts'
import { classify } from './classify.ts'

const { fileURLToPath } = process.getBuiltinModule('node:url')

/** What a survey found in a file: values that should be settings, reads, and why it was skipped, if it was. */
export interface ScannedFile extends Source {
  readonly skipped: string | null
}

/** A literal without its value: that is taken from the file again, so that no secret is kept a second time. */
interface CachedPlace extends Omit<SourceLiteral, 'value' | 'file'> {
  /** How its escapes are undone. */
  readonly escapes: Escapes
  /** How many characters before and after the value are not part of it: quotes, and what a language puts around them. */
  readonly around: readonly [number, number]
}

type Escapes = keyof typeof UNESCAPE

/** The ways in which a value can be written; what is written in another way is scanned again each time. */
const UNESCAPE = {
  none: (raw: string) => raw,
  quotes: (raw: string) => raw.replace(/\\(["'\\])/g, '$1'),
  number: (raw: string) => String(Number(raw.replaceAll('_', ''))),
  script: (raw: string) =>
    raw.replace(/\\([nrt]|[^\w\r\n])/g, (_, each: string) => ({ n: '\n', r: '\r', t: '\t' })[each] ?? each),
}

interface Entry {
  /** Size, times of change and number of the file; the same for an unchanged file. */
  readonly stamp: string
  readonly literals: readonly CachedPlace[]
  readonly fallbacks: readonly CachedPlace[]
  readonly reads: readonly Omit<SourceRead, 'file'>[]
  readonly skipped: string | null
}

/** A file that was changed less than so many milliseconds ago may change again without its times telling. */
const TOO_YOUNG = 2000

/**
 * Remembers what was found in each file, so that an unchanged file is not parsed again. Holds places and names,
 * and never a value.
 */
export class SurveyCache {
  readonly #file: string
  readonly #entries: Map<string, Entry>
  readonly #kept = new Map<string, Entry>()
  readonly #opened = Date.now()
  #changed = false

  /** Opens what was remembered for a project; nothing, where it was another version that remembered it. */
  constructor(root: string) {
    this.#file = cacheFile(root, 'survey')
    this.#entries = read(this.#file)
  }

  /** True for a file of which something is remembered, as it is now. */
  knows(whole: string, stats: Stats): boolean {
    return this.#entries.get(whole)?.stamp === toStamp(stats)
  }

  /**
   * What is remembered of a file.
   *
   * @param file the path to name in places
   * @returns `null` where it has to be scanned again
   */
  get(whole: string, stats: Stats, file: string): ScannedFile | null {
    const entry = this.#entries.get(whole)
    if (entry === undefined || entry.stamp !== toStamp(stats)) return null
    const values = withValues([...entry.literals, ...entry.fallbacks], whole, file)
    if (values === null) return null
    this.#kept.set(whole, entry)
    const { length } = entry.literals
    return {
      literals: values.slice(0, length),
      fallbacks: values.slice(length),
      reads: entry.reads.map((each) => ({ ...each, file })),
      skipped: entry.skipped,
    }
  }

  /** Remembers what was found in a file, as far as its values can be found again. */
  put(whole: string, stats: Stats, { literals, fallbacks = [], reads, skipped }: ScannedFile, text: string): void {
    this.#changed ||= this.#entries.has(whole)
    if (Math.max(stats.mtimeMs, stats.ctimeMs) > this.#opened - TOO_YOUNG) return
    const places = [literals, fallbacks].map((each) => withoutValues(each, text))
    if (places.includes(null)) return
    this.#changed = true
    this.#kept.set(whole, {
      stamp: toStamp(stats),
      literals: places[0]!,
      fallbacks: places[1]!,
      reads: reads.map(({ file: _, ...each }) => each),
      skipped,
    })
  }

  /** Writes it down. A directory that can't be written to is no error: everything is scanned again then. */
  save(): void {
    // What was not checked this time, because only a part of the project was, stays remembered.
    if (!this.#changed) return
    const others = [...this.#entries].filter(([file]) => !this.#kept.has(file) && fs.existsSync(file))
    const entries = Object.fromEntries([...others, ...this.#kept])
    writeOwn(this.#file, JSON.stringify({ rules: stampRules(), entries }))
  }
}

type Stats = import('node:fs').Stats

/** Of all literals, those that may become settings; the others need not be remembered. */
export function withClassification(literals: readonly SourceLiteral[]): SourceLiteral[] {
  const kept = new Set(literals.filter((each) => classify(each) !== null))
  // What a conditional chooses instead of such a value goes with it.
  const chosen = new Set([...kept].map(({ choice }) => choice?.start))
  return literals.filter((each) => kept.has(each) || (each.choice !== undefined && chosen.has(each.choice.start)))
}

/** Where values stand; `null` where one of them can't be found again. */
function withoutValues(literals: readonly SourceLiteral[], text: string): readonly CachedPlace[] | null {
  const places: CachedPlace[] = []
  for (const { value, file: _, ...place } of literals) {
    const written = toWrittenForm(text.slice(place.start, place.end), value, place.form)
    if (written === null) return null
    places.push({ ...place, ...written })
  }
  return places
}

/** How a value is written; `null` where it can't be told from what stands there. */
function toWrittenForm(
  raw: string,
  value: string,
  form: SourceLiteral['form'],
): Pick<CachedPlace, 'escapes' | 'around'> | null {
  const quoted = form === 'text' && /^(["'`])[\s\S]*\1$/.test(raw)
  const around = quoted ? ([1, 1] as const) : ([0, 0] as const)
  const inner = inside(raw, around)
  const escapes = (Object.keys(UNESCAPE) as Escapes[]).find((each) => UNESCAPE[each](inner) === value)
  if (escapes !== undefined) return { escapes, around }
  // As in b"..." or %q(...).
  const at = raw.indexOf(value)
  return at < 0 ? null : { escapes: 'none', around: [at, raw.length - at - value.length] }
}

function inside(raw: string, [before, after]: CachedPlace['around']): string {
  return raw.slice(before, raw.length - after)
}

function withValues(places: readonly CachedPlace[], whole: string, file: string): SourceLiteral[] | null {
  if (places.length === 0) return []
  try {
    const text = fs.readFileSync(whole, 'utf8')
    return places.map(({ escapes, around, ...place }) => {
      const value = UNESCAPE[escapes](inside(text.slice(place.start, place.end), around))
      return { ...place, file, value }
    })
  } catch {
    return null
  }
}

function toStamp({ size, mtimeMs, ctimeMs, ino }: Stats): string {
  return `${size} ${mtimeMs} ${ctimeMs} ${ino}`
}

/** Changes with the program that looks for values: what older rules found counts no more. */
function stampRules(): string {
  return toStamp(fs.statSync(fileURLToPath(import.meta.url)))
}

function read(file: string): Map<string, Entry> {
  try {
    const { rules, entries } = JSON.parse(readOwn(file) ?? 'null') as {
      rules: string
      entries: Record<string, Entry>
    }
    return rules === stampRules() ? new Map(Object.entries(entries)) : new Map()
  } catch {
    return new Map()
  }
}
