import type { StoreEvent, StoreHistory } from '@mappa/core/store/store'
import { StoreError } from '@mappa/core/store/store-error'
import { isVariableName } from '@mappa/core/text/variable-name'
import type { Answer } from './answer.ts'
import type { Call, Gateway } from './gateway.ts'
import type { Keys } from './keys.ts'
import { findPairs } from './reading.ts'
import type { KeyEvent } from './watching.ts'
import { type ChangeNote, readNote } from './writing.ts'

/** After so much silence the changes that there are have all come, in milliseconds: etcd hands them out five times as often. */
const SILENCE = 600

/**
 * Lists the changes of a stage that etcd still knows, by watching from its first revision on.
 *
 * @throws {StoreError} where it can't be read
 */
export async function readHistory(
  gateway: Gateway,
  keys: Keys,
  stage: string,
  { signal }: Call,
): Promise<StoreHistory> {
  const newest = await readNewestRevision(gateway, keys, stage, signal === undefined ? {} : { signal })
  const all = await readEvents(gateway, keys, stage, 1n, newest, signal)
  if (!('forgottenBefore' in all)) return { events: findChanges(keys, stage, all.events), isCut: false }
  const rest = await readEvents(gateway, keys, stage, all.forgottenBefore, newest, signal)
  return { events: findChanges(keys, stage, 'events' in rest ? rest.events : []), isCut: true }
}

/** The revision of the newest change that something is left of. */
async function readNewestRevision(gateway: Gateway, keys: Keys, stage: string, call: Call): Promise<bigint> {
  const order = { sort_order: 'DESCEND', sort_target: 'MOD', limit: '1', keys_only: true }
  const [newest] = findPairs(await gateway.call('kv/range', { ...keys.wideRange(stage), ...order }, call))
  return BigInt(newest?.mod_revision ?? 0)
}

type Events = { readonly events: readonly KeyEvent[] } | { readonly forgottenBefore: bigint }

async function readEvents(
  gateway: Gateway,
  keys: Keys,
  stage: string,
  start: bigint,
  newest: bigint,
  outer: AbortSignal | undefined,
): Promise<Events> {
  const events: KeyEvent[] = []
  let forgottenBefore: bigint | null = null
  const done = new AbortController()
  const signal = outer === undefined ? done.signal : AbortSignal.any([outer, done.signal])
  let timer: NodeJS.Timeout | undefined
  const take = ({ events: more = [], compact_revision: compacted }: Answer) => {
    if (compacted !== undefined) {
      forgottenBefore = BigInt(String(compacted))
      done.abort(DONE)
    }
    for (const each of more as readonly KeyEvent[]) events.push(each)
    clearTimeout(timer)
    const isAll = BigInt(events.at(-1)?.kv.mod_revision ?? 0) >= newest
    timer = setTimeout(() => done.abort(DONE), isAll ? SILENCE : SILENCE * 10)
  }
  try {
    const request = { create_request: { ...keys.wideRange(stage), start_revision: String(start) } }
    await gateway.stream('watch', request, take, { signal })
  } catch (error) {
    if (error !== DONE) throw error
  } finally {
    clearTimeout(timer)
  }
  if (forgottenBefore === start) throw new StoreError('answer', 'it forgets changes faster than they can be listed')
  return forgottenBefore === null ? { events } : { forgottenBefore }
}

const DONE = new Error('all was listed')

/** What happened, a change at a time, the newest first. */
function findChanges(keys: Keys, stage: string, events: readonly KeyEvent[]): readonly StoreEvent[] {
  const present = new Set<string>()
  const notes = new Map<string, ChangeNote>()
  const names = new Map<string, StoreEvent['names'][number][]>()
  for (const { type, kv } of events) {
    if (kv.key === keys.note(stage)) {
      const note = readNote(kv)
      if (note !== null) notes.set(kv.mod_revision, note)
      continue
    }
    const name = keys.findName(stage, kv.key)
    if (name === null || !isVariableName(name)) continue
    const same = names.get(kv.mod_revision) ?? []
    names.set(kv.mod_revision, [...same, { name, what: describeEvent(type, name, kv, present) }])
  }
  const changes = [...names].map(([revision, each]): StoreEvent => {
    const note = notes.get(revision)
    return { revision, at: note?.at ?? null, by: note?.by ?? null, names: each }
  })
  return changes.reverse()
}

function describeEvent(type: KeyEvent['type'], name: string, kv: KeyEvent['kv'], present: Set<string>) {
  if (type === 'DELETE') {
    present.delete(name)
    return 'removed'
  }
  const { create_revision: created } = kv as { create_revision?: string }
  const isNew = created === undefined ? !present.has(name) : created === kv.mod_revision
  present.add(name)
  return isNew ? 'added' : 'changed'
}
