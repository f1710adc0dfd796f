import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { type PackedFile, unpack } from '../decode/archives.ts'
import { bytewise, findHits, findHitsInCode, findHitsInText, type Hit, type SearchedSecret } from '../needles.ts'
import { showPath } from '../shown-path.ts'
import type { SkippedPart } from './coverage.ts'
import { findOpaqueType, isPointer, UNKNOWN } from './formats.ts'
import { readMapTexts } from './source-map.ts'
import { decodeWide } from './wide-text.ts'

/** Files that pages and programs read as texts, whatever bytes are in them. */
const TEXTS = /\.(?:[cm]?js|css|html?|json|map|svg|xml|txt|webmanifest)$/i

/** What a file was found to hold. */
export interface ContentHits {
  /** Each secret once. */
  readonly hits: readonly Hit[]
  readonly skipped: readonly SkippedPart[]
}

/**
 * Looks for secrets in the content of a file, whatever that is: as it stands, in UTF-16 and UTF-32, or in an archive.
 *
 * @param name its name, whose ending may say how it is packed
 * @param needles what to look for; without any, it is only found out whether the file can be read
 */
export function searchContent(name: string, bytes: Buffer, needles: readonly SearchedSecret[]): ContentHits {
  const { files, skipped: closed, archives } = unpack(name, bytes, MAX_SEARCHED_BYTES)
  const hits: Hit[] = []
  const skipped: SkippedPart[] = []
  const search = (file: PackedFile, how: string, part: string | null) => {
    const wide = decodeWide(file.bytes)
    addHits(hits, findHitsInFile(file, needles), how)
    if (wide !== null) {
      const inner = findHitsInFile({ name: file.name, bytes: wide.bytes }, needles)
      addHits(hits, inner, `, in ${wide.encoding}${how === '' ? '' : ' and compressed'}`)
    }
    if (wide?.isSure !== true && !archives.has(file.bytes)) skipped.push(...describePiece(file, part))
  }
  search({ name, bytes }, '', null)
  for (const file of files) search(file, ', compressed', file.name)
  for (const { name: part, reason } of closed) skipped.push({ part: part === name ? null : part, reason })
  return { hits, skipped: skipped.map((each) => withoutSecrets(each, needles)) }
}

/** The name of a part is told, and may hold what nobody may see. */
function withoutSecrets(skipped: SkippedPart, needles: readonly SearchedSecret[]): SkippedPart {
  return skipped.part === null || needles.length === 0
    ? skipped
    : { ...skipped, part: showPath(skipped.part, needles).path }
}

/** Without a NUL in it, or by its name, a file may be code. */
function findHitsInFile({ name, bytes }: PackedFile, needles: readonly SearchedSecret[]): readonly Hit[] {
  if (needles.length === 0) return []
  const map = name.endsWith('.map') ? readMapTexts(bytes.toString()) : null
  if (map !== null) return [...findHitsInText(bytewise(map.text), needles), ...findHits(map.mappings, needles)]
  return findHitsInText(bytewise(bytes), needles, TEXTS.test(name) || !bytes.includes(0) ? findHitsInCode : findHits)
}

function addHits(hits: Hit[], found: readonly Hit[], how: string): void {
  for (const hit of found)
    if (hits.every(({ name }) => name !== hit.name)) hits.push({ ...hit, encoding: `${hit.encoding}${how}` })
}

function describePiece({ name, bytes }: PackedFile, part: string | null): readonly SkippedPart[] {
  if (isPointer(bytes)) return [{ part, reason: 'pointer' }]
  const type = findOpaqueType(bytes)
  return type === null || (type === UNKNOWN && TEXTS.test(name)) ? [] : [{ part, reason: 'format', type }]
}
