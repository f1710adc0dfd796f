import type { Store, StoreState } from '@mappa/core/store/store'
import { isStoreError } from '@mappa/core/store/store-error'

/** What `checkStore` needs to know. */
export interface StoreCheck {
  /**
   * The stage to try with. All that is in it is written over.
   * @default 'staging'
   */
  readonly stage?: string
  /**
   * How long a watcher may take to be told, in milliseconds.
   * @default 5000
   */
  readonly patience?: number
}

/** One promise of a store, and whether it was kept. */
export interface StorePromise {
  readonly promise: string
  /** What happened instead; `null` where it was kept. */
  readonly broken: string | null
}

/** Texts that stores have changed before. */
const TEXTS: Readonly<Record<string, string>> = {
  PLAIN: 'drill-0f4c9a7be2d81635',
  EMPTY: '',
  BLANKS: '  two  blanks  ',
  LINES: 'first\nsecond\r\nthird\n',
  SIGNS: '"\'`$#\\${PLAIN} = ; & < > %41',
  LETTERS: 'Größe 🔭 \u2028',
}

/**
 * Tries whether an implementation of a store keeps the promises of {@link Store}, by writing to it. For a test of the implementation,
 * against a place that nobody uses.
 *
 * @returns each promise; one about `watch`, `write` or `history` is left out where the store has none
 * @example
 * ```ts
 * for (const { promise, broken } of await checkStore(myStore)) it(promise, () => assert.equal(broken, null))
 * ```
 */
export async function checkStore(
  store: Store,
  { stage = 'staging', patience = 5000 }: StoreCheck = {},
): Promise<readonly StorePromise[]> {
  const kept: StorePromise[] = []
  const tries = async (promise: string, act: () => Promise<string | null>) => {
    try {
      kept.push({ promise, broken: await act() })
    } catch (error) {
      kept.push({
        promise,
        broken: isStoreError(error) ? `${error.kind}: ${error.reason}` : `it threw ${String((error as Error)?.name)}`,
      })
    }
  }
  await tries('says which one it is', async () => (store.describe() === '' ? 'describe gave nothing' : null))
  await tries('reads the stage that it is asked for', async () => {
    const state = await store.read(stage)
    return state.stage === stage ? null : `it gave ${state.stage}`
  })
  await tries('heeds the signal of a request', () => heedsSignal(store, stage))
  if (store.write === undefined) return kept
  await tries('keeps texts as they are', () => keepsTexts(store, stage))
  await tries('writes nothing where a name was changed meanwhile', () => noticesChange(store, stage, 'PLAIN'))
  await tries('writes nothing where a name was added meanwhile', () => noticesChange(store, stage, 'LATER'))
  await tries('removes a name', async () => {
    await store.write!([{ name: 'PLAIN', value: null }], await store.read(stage))
    return (await store.read(stage)).entries.has('PLAIN') ? 'the name is still there' : null
  })
  if (store.watch !== undefined)
    await tries('tells a watcher of each change, whole', () => tellsWatcher(store, stage, patience))
  if (store.history !== undefined) await tries('lists changes without values', () => listsChanges(store, stage))
  return kept
}

async function heedsSignal(store: Store, stage: string): Promise<string | null> {
  const reason = new Error('ended')
  try {
    await store.read(stage, { signal: AbortSignal.abort(reason) })
    return 'it answered although the request had ended'
  } catch (error) {
    return error === reason ? null : 'it threw something else than what the signal was ended with'
  }
}

/** What differs; a store that keeps values to itself can only be asked whether they are there. */
function compareStates({ entries }: StoreState, texts: Readonly<Record<string, string>>): string | null {
  for (const [name, text] of Object.entries(texts)) {
    const entry = entries.get(name)
    if (entry === undefined) return `${name} is not there`
    if (entry.value !== null && entry.value !== text) return `${name} came back as another text`
    if (entry.value === null && entry.digest === undefined) return `${name} has neither a value nor a digest`
  }
  return null
}

async function keepsTexts(store: Store, stage: string): Promise<string | null> {
  const before = await store.read(stage)
  const gone = [...before.entries.keys()].filter((name) => !(name in TEXTS)).map((name) => ({ name, value: null }))
  const all = Object.entries(TEXTS).map(([name, value]) => ({ name, value }))
  const revision = await store.write!([...all, ...gone], before)
  const after = await store.read(stage)
  if (revision === before.revision) return 'a change has the revision of the one before'
  return (
    compareStates(after, TEXTS) ?? (after.entries.size === all.length ? null : 'there are more names than were written')
  )
}

async function noticesChange(store: Store, stage: string, name: string): Promise<string | null> {
  const seen = await store.read(stage)
  await store.write!([{ name, value: `meanwhile ${seen.revision}` }], seen)
  const now = await store.read(stage)
  try {
    await store.write!(
      [
        { name: 'PLAIN', value: 'late' },
        { name: 'EMPTY', value: 'late' },
      ],
      seen,
    )
    return 'it wrote all the same'
  } catch (error) {
    if (!isStoreError(error) || error.kind !== 'conflict')
      return 'it threw something else than a StoreError of the kind conflict'
  }
  const after = await store.read(stage)
  return after.entries.get('EMPTY')?.revision === now.entries.get('EMPTY')?.revision
    ? null
    : 'half of the change was written'
}

async function tellsWatcher(store: Store, stage: string, patience: number): Promise<string | null> {
  const from = await store.read(stage)
  const states: StoreState[] = []
  const stop = store.watch!(from, { onState: (state) => states.push(state), onError: () => {} })
  try {
    for (const value of ['first', 'second', 'third']) {
      const pair = ['ONE', 'OTHER'].map((name) => ({ name, value }))
      const revision = await store.write!(pair, await store.read(stage))
      if (!(await comes(() => states.at(-1)?.entries.get('OTHER')?.revision === revision, patience)))
        return `a change was not told within ${patience} ms`
    }
    const halves = states.filter(({ entries }) => entries.get('ONE')?.revision !== entries.get('OTHER')?.revision)
    return halves.length === 0 ? null : 'it told of half of a change'
  } finally {
    stop()
  }
}

async function comes(isThere: () => boolean, patience: number): Promise<boolean> {
  for (const began = performance.now(); performance.now() - began < patience; ) {
    if (isThere()) return true
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
  return isThere()
}

async function listsChanges(store: Store, stage: string): Promise<string | null> {
  const revision = await store.write!([{ name: 'LISTED', value: 'canary-9f3KQ2x7' }], await store.read(stage), {
    by: 'a test',
  })
  const { events } = await store.history!(stage)
  const own = events.find((each) => each.revision === revision)
  if (own === undefined) return 'the last change is not listed'
  if (own.names.length !== 1 || own.names[0]!.name !== 'LISTED') return 'the last change has other names'
  return JSON.stringify(events).includes('canary-9f3KQ2x7') ? 'a value is listed' : null
}
