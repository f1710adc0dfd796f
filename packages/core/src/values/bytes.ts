import { toWellFormed } from '../text/well-formed.ts'

/** The bytes of a text in UTF-8. */
export function utf8(text: string): readonly number[] {
  const escaped = encodeURIComponent(toWellFormed(text))
  const bytes: number[] = []
  for (let at = 0; at < escaped.length; at++) {
    if (escaped[at] === '%') {
      bytes.push(Number.parseInt(escaped.slice(at + 1, at + 3), 16))
      at += 2
    } else bytes.push(escaped.charCodeAt(at))
  }
  return bytes
}

/** A text of one character, up to U+00FF, for each byte. */
export function binary(bytes: readonly number[]): string {
  return bytes.map((byte) => String.fromCharCode(byte)).join('')
}
