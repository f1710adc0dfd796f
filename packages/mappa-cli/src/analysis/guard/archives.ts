const { createRequire } = process.getBuiltinModule('node:module')
const { brotliDecompressSync, gunzipSync } = process.getBuiltinModule('node:zlib')

/** A file within another one. */
export interface PackedFile {
  /** Its name, as far as the archive tells. */
  readonly name: string
  readonly bytes: Buffer
}

/** Archives within archives are opened so deep. */
const MAX_DEPTH = 4
/** The size of a block of a tar archive, and where its fields are (POSIX.1-2017, pax). */
const BLOCK = 512

/**
 * What a file holds that is packed: gzip, Brotli, zip, tar, and those within each other.
 *
 * @param name the name of the file, whose ending may say how it is packed
 * @param limit how many bytes may come out of it, in all
 * @returns nothing for a file that is not packed; `null` where it can't be unpacked, or is larger
 */
export function unpack(name: string, bytes: Buffer, limit: number): readonly PackedFile[] | null {
  try {
    const left = { bytes: limit }
    return inside({ name, bytes }, left, 0)
  } catch {
    return null
  }
}

function inside(file: PackedFile, left: { bytes: number }, depth: number): readonly PackedFile[] {
  const found = depth < MAX_DEPTH ? open(file, left) : []
  return found.flatMap((each) => [each, ...inside(each, left, depth + 1)])
}

/**
 * Opens one layer.
 *
 * @throws where it is damaged, or there would be more bytes than are left
 */
function open({ name, bytes }: PackedFile, left: { bytes: number }): readonly PackedFile[] {
  const options = { maxOutputLength: Math.max(1, left.bytes) }
  const one = (content: Buffer, ending: RegExp): readonly PackedFile[] => {
    spend(content.length, left)
    return [{ name: name.replace(ending, ''), bytes: content }]
  }
  if (bytes[0] === 0x1f && bytes[1] === 0x8b) return one(gunzipSync(bytes, options), /\.gz$/)
  if (name.endsWith('.br')) return one(brotliDecompressSync(bytes, options), /\.br$/)
  if (bytes.subarray(0, 4).equals(Buffer.from('PK\x03\x04', 'latin1'))) return unpackZip(bytes, left)
  return bytes.toString('latin1', 257, 262) === 'ustar' ? unpackTar(bytes) : []
}

function spend(count: number, left: { bytes: number }): void {
  left.bytes -= count
  if (left.bytes < 0) throw new RangeError('more bytes than are read')
}

function unpackZip(bytes: Buffer, left: { bytes: number }): readonly PackedFile[] {
  const { unzipSync } = createRequire(import.meta.url)('fflate') as typeof import('fflate')
  const files = unzipSync(bytes, {
    // Told before anything is unpacked, so that a small file can't become a huge one.
    filter({ originalSize }) {
      spend(originalSize, left)
      return true
    },
  })
  return Object.entries(files).map(([name, each]) => ({
    name,
    bytes: Buffer.from(each.buffer, each.byteOffset, each.byteLength),
  }))
}

/** The files of a tar archive. They are parts of it, so they cost nothing. */
function unpackTar(bytes: Buffer): readonly PackedFile[] {
  const files: PackedFile[] = []
  for (let at = 0; at + BLOCK <= bytes.length; ) {
    const name = bytes.toString('utf8', at, at + 100).replace(/\0.*$/s, '')
    const size = Number.parseInt(bytes.toString('latin1', at + 124, at + 136).replace(/[^0-7]/g, '') || '0', 8)
    if (name === '' && size === 0) break
    files.push({ name, bytes: bytes.subarray(at + BLOCK, at + BLOCK + size) })
    at += BLOCK + Math.ceil(size / BLOCK) * BLOCK
  }
  return files
}
