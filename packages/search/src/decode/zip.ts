const { inflateRawSync } = process.getBuiltinModule('node:zlib')

/** A file of a zip archive, as the directory at its end has it (APPNOTE 4.3.12). */
export interface ZipEntry {
  readonly name: string
  /** How many bytes it has when it is unpacked, as it says. */
  readonly size: number
  readonly packedSize: number
  readonly method: number
  /** Where its own header is. */
  readonly at: number
  readonly isEncrypted: boolean
}

const END = Buffer.from('PK\x05\x06', 'latin1')
const ENTRY = 0x02014b50
const HEADER = 0x04034b50
/** The end of the directory, without its comment, in bytes. */
const END_SIZE = 22
const [STORED, DEFLATED] = [0, 8]

/**
 * The files of a zip archive.
 *
 * @throws where its directory is damaged, or has sizes that only ZIP64 can tell
 */
export function listZipEntries(bytes: Buffer): readonly ZipEntry[] {
  const end = bytes.lastIndexOf(END)
  if (end < 0 || end + END_SIZE > bytes.length) throw new RangeError('the archive ends without its directory')
  const entries: ZipEntry[] = []
  let at = bytes.readUInt32LE(end + 16)
  for (let left = bytes.readUInt16LE(end + 10); left > 0; left--) {
    if (bytes.readUInt32LE(at) !== ENTRY) throw new RangeError('the directory of the archive is damaged')
    const [name, extra, comment] = [28, 30, 32].map((field) => bytes.readUInt16LE(at + field)) as [
      number,
      number,
      number,
    ]
    entries.push({
      name: bytes.toString('utf8', at + 46, at + 46 + name),
      size: bytes.readUInt32LE(at + 24),
      packedSize: bytes.readUInt32LE(at + 20),
      method: bytes.readUInt16LE(at + 10),
      at: bytes.readUInt32LE(at + 42),
      isEncrypted: (bytes.readUInt16LE(at + 8) & 1) === 1,
    })
    at += 46 + name + extra + comment
  }
  // What a directory does not list would count as looked at. Behind it there may be records of ZIP64 and signatures.
  const isWhole = at === end || bytes.toString('latin1', at, at + 2) === 'PK'
  if (!isWhole || (entries.length === 0 && bytes.readUInt32LE(0) === HEADER))
    throw new RangeError('the directory of the archive is damaged')
  return entries
}

/**
 * Unpacks one file.
 *
 * @throws where it is damaged, larger than it says, or packed in a way that `node:zlib` does not know
 */
export function readZipEntry(bytes: Buffer, { at, size, packedSize, method }: ZipEntry): Buffer {
  if (bytes.readUInt32LE(at) !== HEADER) throw new RangeError('a file of the archive is damaged')
  const start = at + 30 + bytes.readUInt16LE(at + 26) + bytes.readUInt16LE(at + 28)
  if (start + packedSize > bytes.length) throw new RangeError('the archive ends before its last file')
  const packed = bytes.subarray(start, start + packedSize)
  if (method === STORED) return packed
  if (method !== DEFLATED) throw new RangeError('a file of the archive is packed in an unknown way')
  return inflateRawSync(packed, { maxOutputLength: Math.max(1, size) })
}
