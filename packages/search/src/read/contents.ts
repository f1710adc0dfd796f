import { unpack } from '../decode/archives.ts'
import { findHitsInFile, type Hit, type SearchedSecret } from '../needles.ts'
import type { SkipReason } from './coverage.ts'
import { findOpaqueType, isPointer } from './formats.ts'
import { decodeWide } from './wide-text.ts'

/** Larger files are not read, in bytes: 256 MiB. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024

/** What of a file was not understood. */
export interface NotUnderstood {
  /** The name of the part, where it is one of an archive. */
  readonly part: string | null
  readonly reason: SkipReason
  /** The kind of thing, for counting; left out where the reason says it. */
  readonly type?: string
}

/** What a file was found to hold. */
export interface ContentHits {
  /** Each secret once. */
  readonly hits: readonly Hit[]
  readonly skipped: readonly NotUnderstood[]
}

/**
 * Looks for secrets in the content of a file, whatever that is: as it stands, in UTF-16 and UTF-32, or in an archive.
 *
 * @param name its name, whose ending may say how it is packed
 * @param needles what to look for; without any, it is only found out whether the file can be read
 */
export function searchContent(name: string, bytes: Buffer, needles: readonly SearchedSecret[]): ContentHits {
  const { files, skipped: closed, archives } = unpack(name, bytes, MAX_FILE_BYTES)
  const hits: Hit[] = []
  const skipped: NotUnderstood[] = []
  const search = (piece: Buffer, how: string, part: string | null) => {
    const wide = decodeWide(piece)
    addHits(hits, piece, how, needles)
    if (wide !== null) addHits(hits, wide.bytes, `, in ${wide.encoding}${how === '' ? '' : ' and compressed'}`, needles)
    if (wide?.isSure !== true && !archives.has(piece)) skipped.push(...describePiece(piece, part))
  }
  search(bytes, '', null)
  for (const file of files) search(file.bytes, ', compressed', file.name)
  for (const { name: part, reason } of closed) skipped.push({ part: part === name ? null : part, reason })
  return { hits, skipped }
}

function addHits(hits: Hit[], piece: Buffer, how: string, needles: readonly SearchedSecret[]): void {
  if (needles.length === 0) return
  for (const hit of findHitsInFile(piece, needles))
    if (hits.every(({ name }) => name !== hit.name)) hits.push({ ...hit, encoding: `${hit.encoding}${how}` })
}

function describePiece(piece: Buffer, part: string | null): readonly NotUnderstood[] {
  if (isPointer(piece)) return [{ part, reason: 'pointer' }]
  const type = findOpaqueType(piece)
  return type === null ? [] : [{ part, reason: 'format', type }]
}
