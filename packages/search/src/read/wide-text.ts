/** A text whose characters take two or four bytes each, as UTF-8. */
export interface WideText {
  readonly encoding: 'UTF-16' | 'UTF-32'
  readonly bytes: Buffer
  /** False where it could as well be something else than text. */
  readonly isSure: boolean
}

/** Of so much of a file it is found out what it is. */
const HEAD = 4096

/** The same text as UTF-8, where it is in UTF-16 or UTF-32 of either order, with a byte-order mark or without; else `null`. */
export function decodeWide(bytes: Buffer): WideText | null {
  const head = bytes.subarray(0, HEAD)
  if (!head.includes(0) && !isMark(head)) return null
  return decodeUtf32(bytes, head) ?? decodeUtf16(bytes, head)
}

const isMark = (head: Buffer) => (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)

/** Of four bytes, two at least are NUL, always the same ones. */
function decodeUtf32(bytes: Buffer, head: Buffer): WideText | null {
  if (head.length < 4) return null
  const isLittle = isUtf32(head, 3, 2)
  if (!isLittle && !isUtf32(head, 0, 1)) return null
  const points: number[] = []
  for (let at = 0; at + 3 < bytes.length; at += 4)
    points.push(isLittle ? bytes.readUInt32LE(at) : bytes.readUInt32BE(at))
  // Binary data may look so as well: of that, few numbers are letters.
  const isText = points.every(isScalar) && points.filter(isLetter).length * 10 >= points.length * 9
  if (!isText) return null
  let text = ''
  for (let at = 0; at < points.length; at += HEAD) text += String.fromCodePoint(...points.slice(at, at + HEAD))
  return { encoding: 'UTF-32', bytes: Buffer.from(text), isSure: true }
}

/** True where each group of four bytes has NUL in the highest, and hardly anything in the one below it. */
function isUtf32(head: Buffer, highest: number, below: number): boolean {
  for (let at = 0; at + 3 < head.length; at += 4)
    if (head[at + highest] !== 0 || head[at + below]! >= 0x11) return false
  return true
}

const isScalar = (point: number) => point <= 0x10ffff && (point < 0xd800 || point >= 0xe000)
const isLetter = (point: number) => point >= 0x20 || (point >= 9 && point <= 13)

/** Of text in most languages of Europe, every other byte is NUL. */
function decodeUtf16(bytes: Buffer, head: Buffer): WideText | null {
  const even = bytes.subarray(0, bytes.length & ~1)
  let [high, low] = [0, 0]
  for (let at = 0; at + 1 < head.length; at += 2) {
    if (head[at] === 0) high++
    if (head[at + 1] === 0) low++
  }
  const little = (head[0] === 0xff && head[1] === 0xfe) || low * 3 > head.length / 2
  const big = (head[0] === 0xfe && head[1] === 0xff) || high * 3 > head.length / 2
  if (!little && !big) return null
  const text = (big ? Buffer.from(even).swap16() : even).toString('utf16le')
  return { encoding: 'UTF-16', bytes: Buffer.from(text, 'utf8'), isSure: isPrintable(text.slice(0, HEAD)) }
}

/** True where hardly any character is one that no text has. */
function isPrintable(text: string): boolean {
  const odd = text.match(/[\0-\x08\x0b\x0e-\x1f\x7f-\x9f\ufffd\ud800-\udfff]/g)?.length ?? 0
  return odd * 50 <= text.length
}
