/**
 * What it means that something was not read, or not understood. `failed` is what was asked for and could not be looked at: whoever says
 * that nothing was found would say too much. `opaque` was looked at byte by byte, and nobody here can open it.
 */
export type SkipClass = 'failed' | 'opaque'

/** The one table of reasons: their classes, their words, and what such things are called together. */
const REASONS = {
  'git-failed': ['failed', 'git could not read it', 'what git could not read'],
  missing: ['failed', 'it is not in this clone', 'what is not in this clone'],
  unreadable: ['failed', "it can't be read", "what can't be read"],
  damaged: ['failed', 'it is damaged', 'damaged files'],
  'too-large': ['failed', 'it has more than 256 MiB', 'files that are too large'],
  'too-deep': ['failed', 'it is packed in more than four layers', 'deep archives'],
  'encrypted-named': ['failed', 'it is encrypted', 'encrypted files'],
  encrypted: ['opaque', 'it is encrypted', 'encrypted files'],
  'no-file': ['opaque', 'it is no regular file', 'what is no regular file'],
  submodule: ['opaque', 'it is a repository of its own', 'submodules'],
  pointer: ['opaque', 'it points to content that is kept elsewhere', 'pointers to content kept elsewhere'],
  generated: [
    'opaque',
    'it is larger than sources that people write',
    'large sources, in which no new credentials were looked for',
  ],
  format: ['opaque', 'nobody here can open its format', 'binary files'],
} as const satisfies Readonly<Record<string, readonly [SkipClass, string, string]>>

/** Why something was not read, or not understood. */
export type SkipReason = keyof typeof REASONS

/** What a reason means. */
export function classifySkip(reason: SkipReason): SkipClass {
  return REASONS[reason][0]
}

/** A reason as the end of a sentence. */
export function describeSkip(reason: SkipReason): string {
  return REASONS[reason][1]
}

/** One thing that was not read, or not understood. */
export interface SkippedItem {
  /** What it is called: a path, or what of the history it is. */
  readonly label: string
  readonly reason: SkipReason
  /** The kind of thing, for counting: `PNG images`. */
  readonly type: string
}

/** Counts what a search looked at, so that it can say how much its answer is worth. */
export class Coverage {
  /** How many things were read. */
  read = 0
  readonly #skipped = new Map<string, SkippedItem>()

  /** Takes something that was not read, or not understood; the same thing for the same reason counts once. */
  skip(label: string, reason: SkipReason, type: string = REASONS[reason][2]): void {
    this.#skipped.set(`${label} ${reason} ${type}`, { label, reason, type })
  }

  /** What could not be looked at, in the order in which it was met. */
  get failed(): readonly SkippedItem[] {
    return this.#list('failed')
  }

  /** What was looked at byte by byte only. */
  get opaque(): readonly SkippedItem[] {
    return this.#list('opaque')
  }

  #list(wanted: SkipClass): readonly SkippedItem[] {
    return [...this.#skipped.values()].filter(({ reason }) => classifySkip(reason) === wanted)
  }
}

/** How many things of one type there are. */
export interface TypeCount {
  readonly type: string
  readonly count: number
}

/** How many there are of each type, the most first. */
export function countTypes(items: readonly SkippedItem[]): readonly TypeCount[] {
  const counts = new Map<string, number>()
  for (const { type } of items) counts.set(type, (counts.get(type) ?? 0) + 1)
  return [...counts]
    .map(([type, count]) => ({ type, count }))
    .sort((one, other) => other.count - one.count || (one.type < other.type ? -1 : 1))
}
