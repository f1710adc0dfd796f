import type { Readable, Writable } from 'node:stream'
import { type MaskedText, Masker } from './masker.ts'

/** After so many milliseconds without output somebody may be waiting for the last few bytes. */
const IDLE_MS = 100

/**
 * Hands a stream on with some texts masked, as fast as its reader takes it. If the reader goes away, so does the stream, as in a pipe of
 * a shell.
 *
 * @param from what a command prints
 * @param to where it goes, which is not ended
 * @returns once all of it is handed on
 */
export function maskStream(from: Readable, to: Writable, texts: readonly MaskedText[]): Promise<void> {
  const masker = new Masker(texts)
  let idle: NodeJS.Timeout | undefined
  const pass = (bytes: Buffer): void => {
    if (bytes.length === 0 || to.write(bytes)) return
    from.pause()
    to.once('drain', () => from.resume())
  }
  const isGone = () => from.destroy()
  to.on('error', isGone)
  from.on('data', (chunk: Buffer) => {
    clearTimeout(idle)
    pass(masker.write(chunk))
    idle = setTimeout(() => pass(masker.flush()), IDLE_MS)
  })
  return new Promise((resolve) => {
    from.on('close', () => {
      clearTimeout(idle)
      // Another start of the command comes with a stream of its own.
      to.removeListener('error', isGone)
      if (!to.destroyed) pass(masker.end())
      resolve()
    })
  })
}
