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
      const same = this.#byHead.get(bytes.readInt32LE())
      const pattern = { bytes, mask: Buffer.from(mask) }
      if (same === undefined) this.#byHead.set(bytes.readInt32LE(), [pattern])
      else same.push(pattern)
      this.#heads[bytes.subarray(0, SHORTEST).reduce(hashBytes, 0)] = 1
      for (let length = 1; length < SHORTEST; length++) this.#starts.add(text.slice(0, length))
    }
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
    if (this.#kept.length > HARMLESS) return Buffer.alloc(0)
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
    let open = isEnd ? length : this.#shortOpen(all)
    let hash = 0
    for (let at = 0; at < length; at++) {
      hash = hashBytes(hash, all[at]!)
      if (heads[hash] === 0 || at < SHORTEST - 1) continue
      const start = at - SHORTEST + 1
      const found = this.#findLongest(all, start, isEnd)
      if (found === 'open') {
        open = Math.min(open, start)
        break
      }
      if (found !== null) add(regions, { start, end: start + found.bytes.length, mask: found.mask })
    }
    const last = regions.at(-1)
    // What reaches into the open end is settled with it.
    if (last !== undefined && last.end > open) open = Math.min(open, regions.pop()!.start)
    return { regions, open }
  }

  /** The longest text at a position; `open` where the bytes end within one and more may come. */
  #findLongest(all: Buffer, start: number, isEnd: boolean): Pattern | 'open' | null {
    const rest = all.length - start
    let longest: Pattern | null = null
    for (const each of this.#byHead.get(all.readInt32LE(start)) ?? []) {
      const length = Math.min(each.bytes.length, rest)
      if (all.compare(each.bytes, 0, length, start, start + length) !== 0) continue
      if (length < each.bytes.length) {
        if (!isEnd) return 'open'
      } else if (longest === null || length > longest.bytes.length) longest = each
    }
    return longest
  }

  /** Where the last three bytes or fewer begin that may be the beginning of a text. */
  #shortOpen(all: Buffer): number {
    for (let rest = Math.min(HARMLESS, all.length); rest > 0; rest--) {
      if (this.#starts.has(all.toString('latin1', all.length - rest))) return all.length - rest
    }
    return all.length
  }
}

/** A hash of the last four bytes: those before have left it. */
function hashBytes(hash: number, byte: number): number {
  return ((hash << 4) ^ byte) & 0xffff
}

function add(regions: Region[], next: Region): void {
  const last = regions.at(-1)
  if (last !== undefined && next.start < last.end) last.end = Math.max(last.end, next.end)
  else regions.push(next)
}
