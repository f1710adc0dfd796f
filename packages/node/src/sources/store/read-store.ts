import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import type { Problem } from '@mappa/core/problems/problem'
import type { Store, StoreState } from '@mappa/core/store/store'
import { isNoAnswer, isStoreError, mayPass, StoreError } from '@mappa/core/store/store-error'
import { pause } from './pause.ts'

/** How long a program waits for a store when it starts, in milliseconds. */
export const TIMEOUT = 5000

/** Less time than this is enough for no attempt, in milliseconds. */
const SHORTEST = 20

/** What reading a store may take. */
export interface ReadLimits {
  /** In milliseconds, for all attempts together. */
  readonly timeout: number
  readonly signal?: AbortSignal
}

/** A store that could not be read. */
export class Unread extends Error {
  readonly problem: Problem
  /** True where nothing was refused, so that values that were kept may be used. */
  readonly isNoAnswer: boolean
  /** What happened, as a part of a sentence. */
  readonly reason: string

  constructor(store: Store, error: unknown, attempts: number, seconds: number) {
    const problem = reportUnread(store, error, attempts, seconds)
    super(problem.message)
    this.problem = problem
    this.isNoAnswer = isNoAnswer(error)
    this.reason = explainFailure(error)
  }
}

/**
 * Reads what a store holds for a stage, again and again while it can't be reached, within a time limit.
 *
 * @throws {Unread} where it can't be read
 */
export async function readStore(store: Store, stage: string, { timeout, signal }: ReadLimits): Promise<StoreState> {
  const began = performance.now()
  const remainingTime = () => timeout - (performance.now() - began)
  const toSeconds = () => Math.round((performance.now() - began) / 100) / 10
  // Of a store that opens nothing, this timer is all that keeps the program from ending in the middle.
  const over = new AbortController()
  const timer = setTimeout(() => over.abort(), timeout)
  const all = signal === undefined ? over.signal : AbortSignal.any([signal, over.signal])
  let last: unknown = new StoreError('timeout', `it gave no answer within ${timeout / 1000} s`)
  try {
    for (let attempt = 1; ; attempt++) {
      try {
        return await raceTimeout(store.read(stage, { signal: all }), all)
      } catch (error) {
        signal?.throwIfAborted()
        // What was wrong before the time was up says more than that it is.
        if (error !== over.signal.reason) last = error
        if (!mayPass(last) || remainingTime() < SHORTEST) throw new Unread(store, last, attempt, toSeconds())
        // Half of what is left, so that there is a last attempt near its end.
        await pause(attempt, all, remainingTime() / 2)
      }
    }
  } finally {
    clearTimeout(timer)
  }
}

/** The same, also for a store that does not heed the signal. */
function raceTimeout<Result>(answer: Promise<Result>, signal: AbortSignal): Promise<Result> {
  return new Promise((resolve, reject) => {
    const end = () => reject(signal.reason)
    if (signal.aborted) end()
    signal.addEventListener('abort', end, { once: true })
    answer.then(resolve, reject).finally(() => signal.removeEventListener('abort', end))
  })
}

/** What is wrong with a store, as a problem. */
export function reportUnread(store: Store, error: unknown, attempts = 1, seconds = 0): Problem {
  const place = { layer: store.describe() }
  const tried = attempts > 1 ? `, in ${attempts} attempts within ${seconds} s` : ''
  const details = { store: store.describe(), reason: `${explainFailure(error)}${tried}` }
  if (!isStoreError(error)) return storeProblem('store-answer-wrong', details, place)
  switch (error.kind) {
    case 'denied':
      return storeProblem('store-denied', details, place)
    case 'conflict':
      return storeProblem('store-conflict', details, place)
    case 'refused':
      return storeProblem('store-refused', details, place)
    case 'answer':
      return storeProblem('store-answer-wrong', details, place)
    default:
      return storeProblem('store-unreachable', details, place)
  }
}

/** What happened, as a part of a sentence. What a foreign error says may hold a value. */
function explainFailure(error: unknown): string {
  if (isStoreError(error)) return error.reason
  return `its implementation failed with ${error instanceof Error ? error.name : typeof error}`
}
