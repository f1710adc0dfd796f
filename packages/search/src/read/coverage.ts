import { classifySkip, nameSkipped, type SkipClass, type SkipReason } from '@mappa/core/problems/skip-reasons'

/** One thing that was not read, or not understood. */
export interface SkippedItem {
  /** What it is called: a path, or what of the history it is. */
  readonly label: string
  readonly reason: SkipReason
  /** The kind of thing, for counting: `PNG images`. */
  readonly type: string
}

/** What of a file was not understood. */
export interface SkippedPart {
  /** The name of the part, where it is one of an archive. */
  readonly part: string | null
  readonly reason: SkipReason
  /** The kind of thing, for counting; left out where the reason says it. */
  readonly type?: string | undefined
}

/** Counts what a search looked at, so that it can say how much its answer is worth. */
export class Coverage {
  /** How many things were read. */
  read = 0
  /** Files that were searched as they are on the disk, by their absolute paths without links: nobody needs to read them again. */
  readonly files = new Set<string>()
  readonly #skipped = new Map<string, SkippedItem>()

  /** Takes something that was not read, or not understood; the same thing for the same reason counts once. */
  skip(label: string, reason: SkipReason, type: string = nameSkipped(reason)): void {
    this.#skipped.set(`${label} ${reason} ${type}`, { label, reason, type })
  }

  /** Takes what of something was not understood. */
  skipPart(label: string, { part, reason, type }: SkippedPart): void {
    this.skip(part === null ? label : `${part} in ${label}`, reason, type)
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
