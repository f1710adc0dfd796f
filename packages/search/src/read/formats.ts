const { isUtf8 } = process.getBuiltinModule('node:buffer')

const toBytes = (text: string) => Buffer.from(text, 'latin1')

/** What stands at an offset. */
type Sign = readonly [at: number, bytes: Buffer]

/** A format that is recognised by how its files begin, and that nothing here opens. */
interface Format {
  readonly type: string
  readonly signs: readonly [Sign, ...Sign[]]
}

const makeSign = (offset: number, text: string): Sign => [offset, toBytes(text)]

/** What is recognised. Whatever else has bytes that no text has is of an unknown format. */
const FORMATS: readonly Format[] = [
  { type: 'PNG images', signs: [makeSign(0, '\x89PNG\r\n\x1a\n')] },
  { type: 'JPEG images', signs: [makeSign(0, '\xff\xd8\xff')] },
  { type: 'GIF images', signs: [makeSign(0, 'GIF8')] },
  { type: 'WebP images', signs: [makeSign(0, 'RIFF'), makeSign(8, 'WEBP')] },
  { type: 'icons', signs: [makeSign(0, '\0\0\x01\0')] },
  { type: 'TIFF images', signs: [makeSign(0, 'II*\0')] },
  { type: 'TIFF images', signs: [makeSign(0, 'MM\0*')] },
  { type: 'images or films (ISO base media)', signs: [makeSign(4, 'ftyp')] },
  { type: 'sound (WAVE)', signs: [makeSign(0, 'RIFF'), makeSign(8, 'WAVE')] },
  { type: 'sound (MP3)', signs: [makeSign(0, 'ID3')] },
  { type: 'sound or films (Ogg)', signs: [makeSign(0, 'OggS')] },
  { type: 'sound (FLAC)', signs: [makeSign(0, 'fLaC')] },
  { type: 'films (Matroska)', signs: [makeSign(0, '\x1aE\xdf\xa3')] },
  { type: 'fonts', signs: [makeSign(0, 'wOFF')] },
  { type: 'fonts', signs: [makeSign(0, 'wOF2')] },
  { type: 'fonts', signs: [makeSign(0, 'OTTO\0')] },
  { type: 'fonts', signs: [makeSign(0, '\0\x01\0\0\0')] },
  { type: 'fonts', signs: [makeSign(0, 'ttcf\0')] },
  { type: 'PDF documents', signs: [makeSign(0, '%PDF-')] },
  { type: 'xz archives', signs: [makeSign(0, '\xfd7zXZ\0')] },
  { type: 'bzip2 archives', signs: [makeSign(0, 'BZh'), makeSign(4, '1AY&SY')] },
  { type: 'Zstandard archives', signs: [makeSign(0, '\x28\xb5\x2f\xfd')] },
  { type: 'LZ4 archives', signs: [makeSign(0, '\x04"M\x18')] },
  { type: '7z archives', signs: [makeSign(0, "7z\xbc\xaf'\x1c")] },
  { type: 'RAR archives', signs: [makeSign(0, 'Rar!\x1a\x07')] },
  { type: 'programs', signs: [makeSign(0, '\x7fELF')] },
  { type: 'programs', signs: [makeSign(0, '\xcf\xfa\xed\xfe')] },
  { type: 'programs', signs: [makeSign(0, '\xca\xfe\xba\xbe')] },
  { type: 'programs', signs: [makeSign(0, 'MZ'), makeSign(0x40, '')] },
  { type: 'WebAssembly', signs: [makeSign(0, '\0asm')] },
  { type: 'SQLite databases', signs: [makeSign(0, 'SQLite format 3\0')] },
  { type: 'packs of git', signs: [makeSign(0, 'PACK\0')] },
]

/** Those whose signs begin further on. */
const ELSEWHERE = FORMATS.filter(({ signs: [[at]] }) => at !== 0)
/** Those that may begin with a byte: most files are text, and need no comparison at all. */
const BY_FIRST_BYTE: ReadonlyMap<number, readonly Format[]> = new Map(
  FORMATS.filter((each) => !ELSEWHERE.includes(each)).map(({ signs: [[, sign]] }) => [
    sign[0]!,
    FORMATS.filter(({ signs: [[at, own]] }) => at !== 0 || own[0] === sign[0]),
  ]),
)

/** What a file that this cannot open is called. */
export const UNKNOWN = 'binary files of unknown formats'

/**
 * The type of a file that nothing here can open; `null` for text, which is understood.
 *
 * @param bytes all of it
 */
export function findOpaqueType(bytes: Uint8Array): string | null {
  const candidates = BY_FIRST_BYTE.get(bytes[0] ?? 0) ?? ELSEWHERE
  const known = candidates.find(({ signs }) => signs.every((sign) => hasSign(bytes, sign)))
  // Two letters begin many texts.
  if (known !== undefined && (known.type !== 'programs' || bytes.includes(0))) return known.type
  return bytes.includes(0) || isNoText(bytes) ? UNKNOWN : null
}

/** True for bytes that are no UTF-8 and have signs that no text has, in whatever encoding: so are small packed files without a NUL. */
function isNoText(bytes: Uint8Array): boolean {
  return !isUtf8(bytes) && bytes.some((byte) => byte < 32 && !TEXT_SIGNS.has(byte))
}

/** Signs below the blank that texts have: tab, ends of lines and pages, and what colours a terminal. */
const TEXT_SIGNS: ReadonlySet<number> = new Set([9, 10, 11, 12, 13, 27])

function hasSign(bytes: Uint8Array, [offset, sign]: readonly [number, Buffer]): boolean {
  return bytes.length >= offset + sign.length && sign.every((byte, index) => bytes[offset + index] === byte)
}

/** True for a small text in the place of a file that a filter of git keeps elsewhere. */
export function isPointer(bytes: Uint8Array): boolean {
  if (bytes.length > 1024) return false
  return /^version https:\/\/\S+\noid sha256:[0-9a-f]{64}\nsize \d+\n/m.test(Buffer.from(bytes).toString('latin1'))
}
