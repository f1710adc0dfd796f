import { findLastLineEnd, findWrappedEnd, findWrappedStart, isWrappable } from './wrapped.ts'

/** A text that must not be seen, and what stands in its place. */
export interface MaskedText {
  /** At least {@link SHORTEST} characters up to U+00FF, one for each byte of the output. */
  readonly text: string
  readonly mask: string
}

/** No shorter text can be masked. */
export const SHORTEST = 4
/** So many bytes at the end may be shown although a masked text may begin with them. */
const HARMLESS = SHORTEST - 1

/** A text ready to be compared with output. */
interface Pattern {
  readonly bytes: Buffer
  readonly mask: Buffer
  /** True where lines may end within it: digits, and what looks like them. */
  readonly isWrapped: boolean
  /** How many of its bytes stand before those by which it is looked up: a line may end within the first ones. */
  readonly before: number
}

/** Where a text was found. */
interface Found {
  readonly start: number
  readonly end: number
  readonly mask: Buffer
}

/** A stretch of bytes that one text covers, or several that overlap. */
interface Region {
  readonly start: number
  end: number
  readonly mask: Buffer
}

/**
 * Replaces texts in a stream of bytes, wherever the stream is cut. Only the end that may begin such a text is kept back.
 *
 * Most positions are settled by one look into a table, at the place that a hash of the last four bytes gives.
 */
export class Masker {
  /** The texts by their first four bytes. */
  readonly #byHead = new Map<number, Pattern[]>()
  /** By the hash of four bytes, whether a text may begin with them. */
  readonly #heads = new Uint8Array(1 << 16)
  /** The first one, two and three bytes of all texts. */
  readonly #starts = new Set<string>()
  #kept: Buffer = Buffer.alloc(0)
  /** How many bytes of what is kept were shown already. */
  #shown = 0

  constructor(texts: readonly MaskedText[]) {
    for (const { text, mask } of texts) {
      const bytes = Buffer.from(text, 'latin1')
      const pattern = { bytes, mask: Buffer.from(mask), isWrapped: isWrappable(text) }
      this.#addHead({ ...pattern, before: 0 })
      if (pattern.isWrapped) this.#addHead({ ...pattern, before: SHORTEST })
      for (let length = 1; length < SHORTEST; length++) this.#starts.add(text.slice(0, length))
    }
  }

  #addHead(pattern: Pattern): void {
    const { bytes, before } = pattern
    const head = bytes.readInt32LE(before)
    const same = this.#byHead.get(head)
    if (same === undefined) this.#byHead.set(head, [pattern])
    else same.push(pattern)
    this.#heads[bytes.subarray(before, before + SHORTEST).reduce(hashBytes, 0)] = 1
  }

  /**
   * Takes the next bytes.
   *
   * @returns what can be shown now
   */
  write(chunk: Buffer): Buffer {
    return this.#settle(this.#kept.length === 0 ? chunk : Buffer.concat([this.#kept, chunk]), false)
  }

  /** Shows the last few bytes if they are too few to tell anything, since a person may be waiting for them. */
  flush(): Buffer {
    if (findLastLineEnd(this.#kept) > HARMLESS) return Buffer.alloc(0)
    const rest = this.#kept.subarray(this.#shown)
    this.#shown = this.#kept.length
    return rest
  }

  /** What is left at the end of the stream. */
  end(): Buffer {
    return this.#settle(this.#kept, true)
  }

  /** Masks what is known to be complete, and keeps the rest. */
  #settle(all: Buffer, isEnd: boolean): Buffer {
    const { regions, open } = this.#scan(all, isEnd)
    const pieces: Buffer[] = []
    let from = this.#shown
    for (const { start, end, mask } of regions) {
      if (start > from) pieces.push(all.subarray(from, start))
      pieces.push(mask)
      from = Math.max(from, end)
    }
    if (open > from) pieces.push(all.subarray(from, open))
    this.#kept = all.subarray(open)
    this.#shown = Math.max(0, this.#shown - open)
    return pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces)
  }

  /** Finds what is to be masked, in order, and where the end begins that may be the beginning of more. */
  #scan(all: Buffer, isEnd: boolean): { readonly regions: readonly Region[]; readonly open: number } {
    const heads = this.#heads
    const { length } = all
    const regions: Region[] = []
    let open = isEnd ? length : this.#findShortOpen(all)
    let hash = 0
    for (let at = 0; at < length; at++) {
      hash = hashBytes(hash, all[at]!)
      if (heads[hash] === 0 || at < SHORTEST - 1) continue
      const start = at - SHORTEST + 1
      const found = this.#findLongest(all, start, isEnd)
      if (found === 'open') {
        open = Math.min(open, this.#findOpen(all, start))
        break
      }
      if (found !== null) add(regions, found)
    }
    const last = regions.at(-1)
    // What reaches into the open end is settled with it.
    if (last !== undefined && last.end > open) open = Math.min(open, regions.pop()!.start)
    return { regions, open }
  }

  /** The longest text at a position; `open` where the bytes end within one and more may come. */
  #findLongest(all: Buffer, start: number, isEnd: boolean): Found | 'open' | null {
    let longest: Found | null = null
    for (const { bytes, mask, isWrapped, before } of this.#byHead.get(all.readInt32LE(start)) ?? []) {
      const begin = before === 0 ? start : findWrappedStart(all, start, bytes.subarray(0, before))
      if (begin === null) continue
      const end = isWrapped ? findWrappedEnd(all, start, bytes.subarray(before)) : findEnd(all, start, bytes)
      if (end === 'open' && !isEnd) return 'open'
      if (typeof end === 'number' && (longest === null || end > longest.end)) longest = { start: begin, end, mask }
    }
    return longest
  }

  /** Where a text begins that is not complete, some bytes of which are at a place. */
  #findOpen(all: Buffer, start: number): number {
    const begins = (this.#byHead.get(all.readInt32LE(start)) ?? []).map(({ bytes, before }) =>
      before === 0 ? start : (findWrappedStart(all, start, bytes.subarray(0, before)) ?? start),
    )
    return Math.min(start, ...begins)
  }

  /** Where the last three bytes or fewer begin that may be the beginning of a text, also before the end of a line. */
  #findShortOpen(all: Buffer): number {
    for (const end of new Set([all.length, findLastLineEnd(all)]))
      for (let rest = Math.min(HARMLESS, end); rest > 0; rest--)
        if (this.#starts.has(all.toString('latin1', end - rest, end))) return end - rest
    return all.length
  }
}

/** Where a text ends that begins at a place; `open` where the bytes end before it does; `null` where it does not stand there. */
function findEnd(all: Buffer, start: number, bytes: Buffer): number | 'open' | null {
  const length = Math.min(bytes.length, all.length - start)
  if (all.compare(bytes, 0, length, start, start + length) !== 0) return null
  return length < bytes.length ? 'open' : start + length
}

/** A hash of the last four bytes: those before have left it. */
function hashBytes(hash: number, byte: number): number {
  return ((hash << 4) ^ byte) & 0xffff
}

function add(regions: Region[], next: Region): void {
  // Of one that a line end parts, the beginning may be seen later than what is within it.
  while (regions.length > 0 && regions.at(-1)!.start >= next.start && regions.at(-1)!.end <= next.end) regions.pop()
  const last = regions.at(-1)
  if (last !== undefined && next.start < last.end) last.end = Math.max(last.end, next.end)
  else regions.push(next)
}
