/** Half of a surrogate pair that stands alone. */
const LONE = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

/** False where half of a surrogate pair stands alone: it would not come through UTF-8. */
export function isWellFormed(text: string): boolean {
  return text.search(LONE) < 0
}

/** A text as UTF-8 has it, with U+FFFD for each half of a surrogate pair that stands alone (Encoding, WHATWG). */
export function toWellFormed(text: string): string {
  return text.replace(LONE, '\ufffd')
}
