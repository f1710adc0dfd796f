/** The first pause, and the longest, in milliseconds. */
const [FIRST, LONGEST] = [100, 5000]

/**
 * Waits before the next attempt: twice as long after each failure, at random, so that many programs do not come back at once.
 *
 * @param failures how many attempts have failed
 * @param longest the longest pause, in milliseconds
 */
export function pause(failures: number, signal: AbortSignal, longest = LONGEST): Promise<void> {
  const most = Math.min(longest, FIRST * 2 ** Math.min(failures - 1, 10))
  return new Promise((resolve) => {
    if (signal.aborted) return resolve()
    const done = () => {
      clearTimeout(timer)
      signal.removeEventListener('abort', done)
      resolve()
    }
    const timer = setTimeout(done, Math.random() * most)
    signal.addEventListener('abort', done)
  })
}
