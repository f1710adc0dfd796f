import type { SkipReason } from '@mappa/core/problems/skip-reasons'
import { listZipEntries, readZipEntry } from './zip.ts'

const { brotliDecompressSync, gunzipSync, inflateSync } = process.getBuiltinModule('node:zlib')

/** A file within another one, or why it could not be taken out. */
export interface PackedFile {
  /** Its name, as far as the archive tells. */
  readonly name: string
  readonly bytes: Buffer
}

/** What an archive holds. */
export interface Unpacked {
  readonly files: readonly PackedFile[]
  /** What of it could not be opened, by its name. */
  readonly skipped: readonly { readonly name: string; readonly reason: SkipReason }[]
  /** The bytes that are an archive, or should be one: the file itself, and archives in it. */
  readonly archives: ReadonlySet<Buffer>
}

/** Archives within archives are opened so deep. */
const MAX_DEPTH = 4
/** The size of a block of a tar archive, and where its fields are (POSIX.1-2017, pax). */
const BLOCK = 512

/** More would come out of an archive than is read. */
class TooLarge extends Error {}

/**
 * What a file holds that is packed: gzip, zlib, Brotli, zip and its kin, tar, and those within each other. What is damaged in one place does
 * not keep the rest from being read.
 *
 * @param name the name of the file, whose ending may say how it is packed
 * @param limit how many bytes may come out of it, in all
 */
export function unpack(name: string, bytes: Buffer, limit: number): Unpacked {
  const files: PackedFile[] = []
  const skipped: { name: string; reason: SkipReason }[] = []
  const left = { bytes: limit }
  const waiting = [{ file: { name, bytes }, depth: 0 }]
  const archives = new Set<Buffer>()
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const { file, depth } = next
    try {
      const opened = open(file, left)
      if (opened === null) continue
      archives.add(file.bytes)
      if (depth === MAX_DEPTH) skipped.push({ name: file.name, reason: 'too-deep' })
      else {
        skipped.push(...opened.encrypted.map((each) => ({ name: each, reason: 'encrypted' as const })))
        files.push(...opened.files)
        waiting.push(...opened.files.map((each) => ({ file: each, depth: depth + 1 })))
      }
    } catch (error) {
      archives.add(file.bytes)
      skipped.push({ name: file.name, reason: isTooLarge(error) ? 'too-large' : 'damaged' })
    }
  }
  return { files, skipped, archives }
}

function isTooLarge(error: unknown): boolean {
  return error instanceof TooLarge || (error as { code?: unknown }).code === 'ERR_BUFFER_TOO_LARGE'
}

interface Opened {
  readonly files: readonly PackedFile[]
  /** The names of files that only a password opens. */
  readonly encrypted: readonly string[]
}

/**
 * Opens one layer; `null` for what is not packed in a way that is known here.
 *
 * @throws where it is damaged, or there would be more bytes than are left
 */
function open({ name, bytes }: PackedFile, left: { bytes: number }): Opened | null {
  const options = { maxOutputLength: Math.max(1, left.bytes) }
  const openOne = (content: Buffer, ending: RegExp): Opened => {
    spend(content.length, left)
    return { files: [{ name: name.replace(ending, ''), bytes: content }], encrypted: [] }
  }
  if (bytes[0] === 0x1f && bytes[1] === 0x8b) return openOne(gunzipSync(bytes, options), /\.t?gz$/)
  if (name.endsWith('.br')) return openOne(brotliDecompressSync(bytes, options), /\.br$/)
  if (hasSign(bytes, 'PK\x03\x04') || hasSign(bytes, 'PK\x05\x06')) return unpackZip(bytes, left)
  if (bytes.toString('latin1', 257, 262) === 'ustar') return { files: unpackTar(bytes), encrypted: [] }
  return looksLikeZlib(bytes) ? unpackZlib(bytes, options, openOne) : null
}

const hasSign = (bytes: Buffer, sign: string) => bytes.toString('latin1', 0, sign.length) === sign

/** The header of zlib (RFC 1950): two bytes, of which the second makes both a multiple of 31. Text may begin so as well. */
function looksLikeZlib(bytes: Buffer): boolean {
  const [first = 0, second = 0] = bytes
  return first === 0x78 && (first * 256 + second) % 31 === 0 && (second & 0x20) === 0
}

function unpackZlib(
  bytes: Buffer,
  options: { maxOutputLength: number },
  openOne: (content: Buffer, ending: RegExp) => Opened,
): Opened | null {
  try {
    return openOne(inflateSync(bytes, options), /\.(?:zz|zlib)$/)
  } catch (error) {
    if (isTooLarge(error)) throw error
    return null
  }
}

function spend(count: number, left: { bytes: number }): void {
  left.bytes -= count
  if (left.bytes < 0) throw new TooLarge('more bytes than are read')
}

function unpackZip(bytes: Buffer, left: { bytes: number }): Opened {
  const entries = listZipEntries(bytes)
  return {
    // Spent before anything is unpacked, so that a small file can't become a huge one.
    files: entries
      .filter(({ isEncrypted }) => !isEncrypted)
      .map((entry) => {
        spend(entry.size, left)
        return { name: entry.name, bytes: readZipEntry(bytes, entry) }
      }),
    encrypted: entries.filter(({ isEncrypted }) => isEncrypted).map(({ name }) => name),
  }
}

/** The files of a tar archive. They are parts of it, so they cost nothing. */
function unpackTar(bytes: Buffer): readonly PackedFile[] {
  const files: PackedFile[] = []
  for (let at = 0; at + BLOCK <= bytes.length; ) {
    const name = bytes.toString('utf8', at, at + 100).replace(/\0.*$/s, '')
    const size = Number.parseInt(bytes.toString('latin1', at + 124, at + 136).replace(/[^0-7]/g, '') || '0', 8)
    if (name === '' && size === 0) return files
    if (at + BLOCK + size > bytes.length) throw new RangeError('the archive ends before its last file')
    files.push({ name, bytes: bytes.subarray(at + BLOCK, at + BLOCK + size) })
    at += BLOCK + Math.ceil(size / BLOCK) * BLOCK
  }
  throw new RangeError('the archive ends without its end')
}
