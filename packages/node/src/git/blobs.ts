import { startGit } from './git.ts'

/** Larger objects are skipped, in bytes: 64 MiB. */
const MAX_BLOB_BYTES = 64 * 1024 * 1024

/**
 * Reads objects of a repository one after the other, through one `git cat-file --batch`.
 *
 * @param names names of objects; what is no blob is skipped
 * @param each is given every blob
 */
export function readBlobs(
  root: string,
  names: readonly string[],
  each: (name: string, bytes: Buffer) => void,
): Promise<void> {
  if (names.length === 0) return Promise.resolve()
  return new Promise((resolve, reject) => {
    const child = startGit(root, ['cat-file', '--batch'])
    if (child === null) return resolve()
    const reader = new BatchReader(names, each)
    child.on('error', reject)
    child.stdout!.on('data', (bytes: Buffer) => reader.take(bytes))
    child.on('close', () => resolve())
    child.stdin!.on('error', () => {})
    child.stdin!.end(`${names.join('\n')}\n`)
  })
}

/** Takes the answers of git apart: a line `name type size`, then so many bytes and a line feed. */
class BatchReader {
  private pending: Buffer[] = []
  private length = 0
  private body: { size: number; blob: boolean } | null = null
  private answered = 0
  private readonly names: readonly string[]
  private readonly each: (name: string, bytes: Buffer) => void

  constructor(names: readonly string[], each: (name: string, bytes: Buffer) => void) {
    this.names = names
    this.each = each
  }

  take(bytes: Buffer): void {
    this.pending.push(bytes)
    this.length += bytes.length
    // Joined only when an answer is whole, so that a large object is not copied over and over.
    if (this.body !== null && this.length < this.body.size + 1) return
    let rest = Buffer.concat(this.pending)
    for (let used = this.takeNext(rest); used > 0; used = this.takeNext(rest)) rest = rest.subarray(used)
    this.pending = [rest]
    this.length = rest.length
  }

  /** Takes a header or a body, if it is there in full; returns how many bytes it had. */
  private takeNext(bytes: Buffer): number {
    return this.body === null ? this.takeHeader(bytes) : this.takeBody(bytes, this.body)
  }

  private takeHeader(bytes: Buffer): number {
    const end = bytes.indexOf(10)
    if (end < 0) return 0
    const [, type, size] = bytes.subarray(0, end).toString('latin1').split(' ')
    // An object that does not exist is answered by a line alone.
    if (size === undefined || !/^\d+$/.test(size)) this.answered++
    else this.body = { size: Number(size), blob: type === 'blob' }
    return end + 1
  }

  private takeBody(bytes: Buffer, { size, blob }: { readonly size: number; readonly blob: boolean }): number {
    if (bytes.length < size + 1) return 0
    if (blob && size <= MAX_BLOB_BYTES) this.each(this.names[this.answered]!, bytes.subarray(0, size))
    this.answered++
    this.body = null
    return size + 1
  }
}
