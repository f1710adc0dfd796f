import type { TestContext } from 'node:test'
import type { ProgramName } from '../support/programs.ts'

/** Something that is tried many times, with numbers that follow from a seed. */
export interface LongRun {
  /** What `npm run endurance -- NAME` calls it. */
  readonly name: string
  /** What is tried, as a sentence about one of the tries. */
  readonly promise: string
  /** How often in `npm test`, and how often in `npm run endurance`. */
  readonly short: number
  readonly long: number
  /** Programs of this machine that it needs; without one it is skipped in `npm test`. */
  readonly programs?: readonly ProgramName[]
  /**
   * Tries it.
   *
   * @throws {Error} with the try that failed
   */
  readonly run: (count: number, seed: number) => void | Promise<void>
}

/** Random numbers from 0 to 1, the same for the same seed (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}

/** What makes random things. */
export interface Random {
  readonly below: (limit: number) => number
  readonly of: <T>(list: readonly T[]) => T
  /** Some texts of a list, put together. */
  readonly text: (pieces: readonly string[], most: number) => string
}

export function makeRandom(seed: number): Random {
  const next = randomFrom(seed)
  const below = (limit: number) => Math.floor(next() * limit)
  const of = <T>(list: readonly T[]) => list[below(list.length)]!
  const text = (pieces: readonly string[], most: number) =>
    Array.from({ length: below(most + 1) }, () => of(pieces)).join('')
  return { below, of, text }
}

/** Does something with what a test has to take away afterwards. */
export async function withCleanup<T>(work: (context: Pick<TestContext, 'after'>) => T | Promise<T>): Promise<T> {
  const steps: (() => unknown)[] = []
  try {
    return await work({ after: (step) => steps.push(step as () => unknown) })
  } finally {
    for (const step of steps.reverse()) await step()
  }
}
