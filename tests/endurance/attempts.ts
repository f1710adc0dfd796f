import { ATTEMPTS } from '../support/border/attempts.ts'
import { tryAttempt, type Vite } from '../support/border/try-attempt.ts'
import { importCompat } from '../support/compat.ts'
import { type LongRun, makeRandom, withCleanup } from './long-run.ts'

const ALL = ATTEMPTS.flatMap(([, attempts]) => attempts)

/** The versions of Vite before the newest, with which other tests try every attempt. */
export const attempts: LongRun = {
  name: 'attempts',
  promise: 'no attempt brings a private value into a page of an older version of Vite',
  short: 8,
  long: 2 * ALL.length,
  async run(count, seed) {
    const versions: readonly Vite[] = await Promise.all(['vite-6', 'vite-7'].map((name) => importCompat<Vite>(name)))
    const random = makeRandom(seed)
    const tries = versions.flatMap((vite) => ALL.map((attempt) => ({ vite, attempt, at: random.below(1_000_000) })))
    tries.sort((a, b) => a.at - b.at)
    for (const { vite, attempt } of tries.slice(0, count))
      await withCleanup((context) => tryAttempt(context, attempt, vite))
  },
}
