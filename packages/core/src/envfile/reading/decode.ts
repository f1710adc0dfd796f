import type { Problem } from '../../problems/problem.ts'
import { problem } from '../../problems/problem.ts'

/** Larger files are not read, in bytes: 16 MiB. */
export const LARGEST_FILE = 16 * 1024 * 1024

/**
 * Turns the bytes of an env file into text. A byte-order mark is kept, as the first character.
 *
 * @param bytes the whole file
 * @param file the path to name in a problem
 * @returns the text, or why there is none
 */
export function decode(bytes: Uint8Array, file: string | null): { text: string } | { problem: Problem } {
  if (bytes.length > LARGEST_FILE) return { problem: problem('file-too-large', { size: bytes.length }, { file }) }
  if (looksLikeUtf16(bytes)) return { problem: problem('utf16-text', {}, { file, line: 1, column: 1 }) }
  const nul = bytes.indexOf(0)
  if (nul >= 0) return { problem: problem('nul-byte', {}, { file, ...getPlace(bytes, nul) }) }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes) }
  } catch {
    return { problem: problem('not-utf8', {}, { file, ...getPlace(bytes, findInvalid(bytes)) }) }
  }
}

/** A UTF-16 byte-order mark, or a first character of ASCII in two bytes. */
function looksLikeUtf16(bytes: Uint8Array): boolean {
  const [first, second] = bytes
  if (first === undefined || second === undefined || bytes.length % 2 !== 0) return false
  if ((first === 0xff && second === 0xfe) || (first === 0xfe && second === 0xff)) return true
  return (
    (first === 0) !== (second === 0) &&
    bytes.length >= 4 &&
    (bytes[2] === 0) === (first === 0) &&
    (bytes[3] === 0) === (second === 0)
  )
}

/** Where the first byte is that does not belong to UTF-8, found by halving. */
function findInvalid(bytes: Uint8Array): number {
  const isValid = (end: number) => {
    try {
      // Streaming, so that a character cut at `end` is no error.
      new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, end), { stream: true })
      return true
    } catch {
      return false
    }
  }
  let valid = 0
  let invalid = bytes.length
  while (invalid - valid > 1) {
    const middle = (valid + invalid) >>> 1
    if (isValid(middle)) valid = middle
    else invalid = middle
  }
  return Math.min(valid, bytes.length - 1)
}

/** Line and column of a byte; the column counts UTF-16 code units of what stands before it on its line. */
function getPlace(bytes: Uint8Array, offset: number): { line: number; column: number } {
  let line = 1
  for (let at = 0; at < offset; at++) if (bytes[at] === 10) line++
  const lineStart = bytes.lastIndexOf(10, Math.max(0, offset - 1)) + 1
  const before = bytes.subarray(Math.min(lineStart, offset), offset)
  return { line, column: new TextDecoder().decode(before).length + 1 }
}
