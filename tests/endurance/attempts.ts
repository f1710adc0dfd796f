import { ATTEMPTS } from '../../packages/mappa/tests/border/attempts.ts'
import { tryAttempt } from '../../packages/mappa/tests/border/try-attempt.ts'
import { type LongRun, makeRandom, withCleanup } from './long-run.ts'

const ALL = ATTEMPTS.flatMap(([, attempts]) => attempts)

/** The versions of Vite between the oldest and the newest, which other tests try with every attempt. */
export const attempts: LongRun = {
  name: 'attempts',
  promise: 'no attempt brings a private value into a page of Vite 7',
  short: 12,
  long: ALL.length,
  async run(count, seed) {
    const vite = (await import('vite-7' as string)) as typeof import('vite')
    const random = makeRandom(seed)
    const shuffled = ALL.map((attempt) => ({ attempt, at: random.below(1_000_000) })).sort((a, b) => a.at - b.at)
    for (const { attempt } of shuffled.slice(0, count))
      await withCleanup((context) => tryAttempt(context, attempt, vite))
  },
}
