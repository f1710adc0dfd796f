/** A line at the terminal that says how far something got. */
export interface Progress {
  readonly update: (done: number, all: number) => void
  readonly end: () => void
}

/** Shown only after so many milliseconds, so that short work leaves no flicker. */
const PROGRESS_DELAY_MS = 800

/**
 * Shows progress on standard error, where a person watches and the work takes long.
 *
 * @param what what is counted, such as `files scanned`
 */
export function progress(what: string): Progress {
  const { stderr } = process
  if (stderr.isTTY !== true) return { update() {}, end() {} }
  const start = Date.now()
  let shown = false
  return {
    update(done, all) {
      if (Date.now() - start < PROGRESS_DELAY_MS) return
      shown = true
      stderr.write(`\r${done} of ${all} ${what}`)
    },
    end() {
      if (shown) stderr.write('\r\u001b[K')
    },
  }
}
