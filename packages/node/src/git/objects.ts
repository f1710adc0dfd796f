import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { startGit } from './git.ts'

/** A repository of which so many objects can't be read is read no further. */
const MAX_RESTARTS = 200

/** What an object of a repository is. */
export type ObjectType = 'blob' | 'tree' | 'commit' | 'tag'

/** An object, or why there is none. */
export type ObjectRead =
  | { readonly name: string; readonly type: ObjectType; readonly bytes: Buffer; readonly skipped: null }
  | { readonly name: string; readonly skipped: 'missing' | 'too-large' | 'git-failed' }

/**
 * Reads objects of a repository one after the other, through `git cat-file --batch`. Each name that is given gets one answer: git ends at an
 * object that is damaged, so it is started again behind that.
 *
 * @param names names of objects
 * @param each is given every object, or why it could not be read
 */
export async function readObjects(
  root: string,
  names: readonly string[],
  each: (read: ObjectRead) => void,
): Promise<void> {
  let at = 0
  let restarts = 0
  while (at < names.length) {
    const rest = names.slice(at)
    const { answered, isStarted } = await readSome(root, rest, each)
    at += answered
    if (at >= names.length) return
    restarts++
    if (!isStarted || restarts > MAX_RESTARTS) {
      for (const name of names.slice(at)) each({ name, skipped: 'git-failed' })
      return
    }
    each({ name: names[at]!, skipped: 'git-failed' })
    at++
  }
}

/** Reads until git ends. */
function readSome(
  root: string,
  names: readonly string[],
  each: (read: ObjectRead) => void,
): Promise<{ readonly answered: number; readonly isStarted: boolean }> {
  return new Promise((resolve) => {
    const child = startGit(root, ['cat-file', '--batch'])
    if (child === null) return resolve({ answered: 0, isStarted: false })
    const reader = new BatchReader(names, each)
    let isStarted = true
    child.on('error', () => {
      isStarted = false
    })
    child.stdout!.on('data', (bytes: Buffer) => reader.take(bytes))
    child.on('close', () => resolve({ answered: reader.answered, isStarted }))
    child.stdin!.on('error', () => {})
    child.stdin!.end(`${names.join('\n')}\n`)
  })
}

/** What is read of the object that comes next. */
interface Body {
  readonly size: number
  readonly type: string
  /** How much of it was dropped already, where it is too large to be kept. */
  dropped: number
}

/** Takes the answers of git apart: a line `name type size`, then so many bytes and a line feed. */
class BatchReader {
  answered = 0
  #pending: Buffer[] = []
  #length = 0
  #body: Body | null = null
  readonly #names: readonly string[]
  readonly #each: (read: ObjectRead) => void

  constructor(names: readonly string[], each: (read: ObjectRead) => void) {
    this.#names = names
    this.#each = each
  }

  take(bytes: Buffer): void {
    this.#pending.push(bytes)
    this.#length += bytes.length
    // Joined only when an answer is whole, so that a large object is not copied over and over.
    if (this.#body !== null && this.#body.size <= MAX_SEARCHED_BYTES && this.#length < this.#body.size + 1) return
    let rest = Buffer.concat(this.#pending)
    for (let used = this.#takeNext(rest); used > 0; used = this.#takeNext(rest)) rest = rest.subarray(used)
    this.#pending = [rest]
    this.#length = rest.length
  }

  /** Takes a header or a body, if it is there in full; returns how many bytes it had. */
  #takeNext(bytes: Buffer): number {
    if (this.#body === null) return this.#takeHeader(bytes)
    return this.#body.size > MAX_SEARCHED_BYTES ? this.#dropBody(bytes, this.#body) : this.#takeBody(bytes, this.#body)
  }

  #takeHeader(bytes: Buffer): number {
    const end = bytes.indexOf(10)
    if (end < 0) return 0
    const [, type = '', size] = bytes.subarray(0, end).toString('latin1').split(' ')
    // An object that does not exist is answered by a line alone.
    if (size === undefined || !/^\d+$/.test(size)) this.#answer({ skipped: 'missing' })
    else this.#body = { size: Number(size), type, dropped: 0 }
    return end + 1
  }

  #takeBody(bytes: Buffer, { size, type }: Body): number {
    if (bytes.length < size + 1) return 0
    this.#answer({ type: type as ObjectType, bytes: bytes.subarray(0, size), skipped: null })
    this.#body = null
    return size + 1
  }

  #dropBody(bytes: Buffer, body: Body): number {
    const left = body.size + 1 - body.dropped
    if (bytes.length < left) {
      body.dropped += bytes.length
      return bytes.length
    }
    this.#answer({ skipped: 'too-large' })
    this.#body = null
    return left
  }

  #answer(read: { skipped: 'missing' | 'too-large' } | { type: ObjectType; bytes: Buffer; skipped: null }): void {
    this.#each({ name: this.#names[this.answered]!, ...read } as ObjectRead)
    this.answered++
  }
}
