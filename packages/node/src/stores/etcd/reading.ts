import type { StoreEntry, StoreState } from '@mappa/core/store/store'
import { StoreError } from '@mappa/core/store/store-error'
import { isVariableName } from '@mappa/core/text/variable-name'
import type { Answer } from './answer.ts'
import type { Call, Gateway } from './gateway.ts'
import type { Keys } from './keys.ts'

/** A key of etcd with its value, as the gateway writes it. */
export interface KeyValue {
  readonly key: string
  readonly value?: string
  readonly mod_revision: string
}

const { isUtf8 } = process.getBuiltinModule('node:buffer')

/** Reads all variables of a stage, at one revision. */
export async function readStage(gateway: Gateway, keys: Keys, stage: string, call: Call): Promise<StoreState> {
  const check = (answer: Answer) => void [getRevision(answer), findPairs(answer)]
  const answer = await gateway.call('kv/range', keys.range(stage), { ...call, check })
  return { stage, revision: getRevision(answer), ...findEntries(keys, stage, findPairs(answer)) }
}

/** The revision that an answer was given at. */
export function getRevision({ header }: Answer): string {
  const { revision } = (header ?? {}) as { revision?: unknown }
  if (typeof revision !== 'string' || !/^\d+$/.test(revision))
    throw new StoreError('answer', 'it names no revision, as etcd does')
  return revision
}

/** The keys of an answer, with their values. */
export function findPairs({ kvs = [] }: Answer): readonly KeyValue[] {
  if (!Array.isArray(kvs)) throw new StoreError('answer', 'its keys are no list')
  if (!kvs.every(isKeyValue)) throw new StoreError('answer', 'one of its keys is not written as etcd writes it')
  return kvs
}

function isKeyValue(pair: unknown): pair is KeyValue {
  if (typeof pair !== 'object' || pair === null) return false
  const { key, value, mod_revision: revision } = pair as Record<string, unknown>
  const isValue = value === undefined || typeof value === 'string'
  return typeof key === 'string' && isValue && typeof revision === 'string' && /^\d+$/.test(revision)
}

/** What keys say about variables. */
export function findEntries(
  keys: Keys,
  stage: string,
  pairs: readonly KeyValue[],
): Pick<StoreState, 'entries' | 'oddKeys'> {
  const entries = new Map<string, StoreEntry>()
  const oddKeys: string[] = []
  for (const pair of pairs) {
    const name = keys.findName(stage, pair.key)
    if (name === null) continue
    if (isVariableName(name)) entries.set(name, toEntry(pair))
    else oddKeys.push(name)
  }
  return { entries, oddKeys }
}

/** What a key says about its variable. */
export function toEntry({ value = '', mod_revision: revision }: KeyValue): StoreEntry {
  const bytes = Buffer.from(value, 'base64')
  return isUtf8(bytes) ? hide(bytes.toString('utf8'), revision) : { value: null, broken: true, revision }
}

/** An entry with its value out of reach of loggers. */
export function hide(value: string, revision: string | null): StoreEntry {
  return Object.defineProperty({ revision }, 'value', { get: () => value }) as unknown as StoreEntry
}
