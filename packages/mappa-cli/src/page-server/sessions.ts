import { createHash, randomBytes } from 'node:crypto'

/** Bytes of a token and of a key: 256 bits, more than anybody can try. */
const SIZE = 32
/** A link that nobody opens is good for so long, in milliseconds. */
const LINK_MS = 10 * 60_000
/** So many pages can be open. */
const MOST_KEYS = 100

/**
 * Who may talk to the server: links that are good for one use, and the keys that they are exchanged for. Both are kept as digests alone.
 */
export class Sessions {
  readonly #links = new Map<string, number>()
  readonly #keys = new Set<string>()

  /** Makes a token for one use. */
  makeToken(now = Date.now()): string {
    for (const [known, until] of this.#links) if (until < now) this.#links.delete(known)
    const token = randomBytes(SIZE).toString('base64url')
    this.#links.set(digest(token), now + LINK_MS)
    return token
  }

  /**
   * Exchanges a token for a key. It is good for nothing afterwards.
   *
   * @returns `null` for a token that was used already, is too old or was never made
   */
  exchange(token: string, now = Date.now()): string | null {
    const known = digest(token)
    const until = this.#links.get(known)
    this.#links.delete(known)
    if (until === undefined || until < now) return null
    const key = randomBytes(SIZE).toString('base64url')
    this.#keys.add(digest(key))
    // Each page that was opened has one; the oldest page is asked to open a new link.
    for (const oldest of this.#keys) if (this.#keys.size > MOST_KEYS) this.#keys.delete(oldest)
    return key
  }

  /** True for a key that was given out. */
  isKey(key: string): boolean {
    return this.#keys.has(digest(key))
  }
}

/** Looking up a digest tells nothing by the time that it takes. */
function digest(text: string): string {
  return createHash('sha256').update(text).digest('base64')
}
