/** A shorter secret is not looked for within other values, where it stands by chance, in characters. */
const SHORTEST = 4
/** Nor is a shorter part of one. */
const SHORTEST_PART = 8

/**
 * True if a value contains a secret: as it is, in percent-encoding (RFC 3986), or in base64 (RFC 4648). A wrong value that does is not
 * shown, since somebody pasted the secret into the wrong setting.
 *
 * @param text the value
 * @param secrets the values of secrets
 * @example
 * ```ts
 * containsSecret('htp:/made-up-key', ['made-up-key']) // true
 * ```
 */
export function containsSecret(text: string, secrets: readonly string[]): boolean {
  const parts = secrets.flatMap(listParts)
  if (parts.length === 0) return false
  const spellings = [text, decode(text, decodeURIComponent), ...splitBase64(text)]
  return parts.some((part) => spellings.some((each) => each.includes(part)))
}

/** A secret, the password in an address, and the items of a list or the lines of a text. */
function listParts(secret: string): string[] {
  const whole = secret.trim()
  const password = /:\/\/[^:/?#@]*:(.*)@/s.exec(whole)?.[1] ?? ''
  const passwords = [password, decode(password, decodeURIComponent)]
  const items = whole.split(/[\s,]+/).filter((each) => each.length >= SHORTEST_PART)
  return [...new Set([whole, ...passwords, ...items])].filter((each) => each.length >= SHORTEST)
}

function splitBase64(text: string): string[] {
  const parts = text.match(/[A-Za-z0-9+/_-]{6,}/g) ?? []
  return parts.map((part) => decode(part.replaceAll('-', '+').replaceAll('_', '/'), decodeUtf8))
}

function decodeUtf8(text: string): string {
  const bytes = atob(text.slice(0, text.length - (text.length % 4 === 1 ? 1 : 0)))
  // What is no text around a secret does not hide it.
  return new TextDecoder().decode(Uint8Array.from(bytes, (byte) => byte.charCodeAt(0)))
}

/** What a text is decoded to; nothing where it is not encoded so. */
function decode(text: string, decode: (text: string) => string): string {
  try {
    return decode(text)
  } catch {
    return ''
  }
}
