const { spawn } = process.getBuiltinModule('node:child_process')

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
    const child = spawn('git', ['-C', root, 'cat-file', '--batch'], { stdio: ['pipe', 'pipe', 'ignore'] })
    const reader = new BatchReader(names, each)
    child.on('error', reject)
    child.stdout.on('data', (bytes: Buffer) => reader.take(bytes))
    child.on('close', () => resolve())
    child.stdin.on('error', () => {})
    child.stdin.end(`${names.join('\n')}\n`)
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
    for (;;) {
      if (this.body === null) {
        const end = rest.indexOf(10)
        if (end < 0) break
        const [, type, size] = rest.subarray(0, end).toString('latin1').split(' ')
        rest = rest.subarray(end + 1)
        // An object that does not exist is answered by a line alone.
        if (size === undefined || !/^\d+$/.test(size)) this.answered++
        else this.body = { size: Number(size), blob: type === 'blob' }
      } else {
        if (rest.length < this.body.size + 1) break
        const { size, blob } = this.body
        if (blob && size <= MAX_BLOB_BYTES) this.each(this.names[this.answered]!, rest.subarray(0, size))
        this.answered++
        this.body = null
        rest = rest.subarray(size + 1)
      }
    }
    this.pending = [rest]
    this.length = rest.length
  }
}
