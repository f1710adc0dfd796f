import { findHitsInFile, type Hit, type SearchedSecret } from '@mappa/search/needles'
import { unpack } from './archives.ts'

/** Larger files are not read, in bytes: 256 MiB. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024

/** What a file was found to hold. */
export interface ContentHits {
  /** Each secret once. */
  readonly hits: readonly Hit[]
  /** False where it is packed in a way that can't be undone. */
  readonly readable: boolean
}

/**
 * Looks for secrets in the content of a file, whatever that is: as it stands, in UTF-16, or in an archive.
 *
 * @param file its name, whose ending may say how it is packed
 */
export function findHitsInContent(file: string, bytes: Buffer, needles: readonly SearchedSecret[]): ContentHits {
  if (needles.length === 0) return { hits: [], readable: true }
  const hits: Hit[] = []
  const add = (piece: Buffer, how: string) => {
    for (const hit of findHitsInFile(piece, needles)) {
      if (hits.every(({ name }) => name !== hit.name)) hits.push({ ...hit, encoding: `${hit.encoding}${how}` })
    }
  }
  add(bytes, '')
  const wide = decodeUtf16(bytes)
  if (wide !== null) add(wide, ', in UTF-16')
  const packed = unpack(file, bytes, MAX_FILE_BYTES)
  for (const { bytes: piece } of packed ?? []) {
    add(piece, ', compressed')
    const inner = decodeUtf16(piece)
    if (inner !== null) add(inner, ', in UTF-16 and compressed')
  }
  return { hits, readable: packed !== null }
}

/** The same text as UTF-8, where it is in UTF-16 of either order, with a byte-order mark or without; else `null`. */
function decodeUtf16(bytes: Buffer): Buffer | null {
  const even = bytes.subarray(0, bytes.length & ~1)
  const head = even.subarray(0, 4096)
  let [high, low] = [0, 0]
  for (let at = 0; at < head.length; at += 2) {
    if (head[at] === 0) high++
    if (head[at + 1] === 0) low++
  }
  // Of text in most languages of Europe, every other byte is NUL.
  const little = (head[0] === 0xff && head[1] === 0xfe) || low * 3 > head.length / 2
  const big = (head[0] === 0xfe && head[1] === 0xff) || high * 3 > head.length / 2
  if (!little && !big) return null
  return Buffer.from((big ? Buffer.from(even).swap16() : even).toString('utf16le'), 'utf8')
}
