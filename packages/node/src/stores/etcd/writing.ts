import { reportConflict } from '@mappa/core/store/conflict'
import type { StoreChange, StoreRequest, StoreState } from '@mappa/core/store/store'
import { mayPass } from '@mappa/core/store/store-error'
import type { Answer } from './answer.ts'
import type { Call, Gateway } from './gateway.ts'
import { encode, type Keys } from './keys.ts'
import { findPairs, getRevision, type KeyValue } from './reading.ts'

/** What `<prefix>/<stage>` says of the last change: which it was, by whom and when. Never a value. */
export interface ChangeNote {
  readonly id: string
  readonly by: string | null
  readonly at: string
}

/**
 * So many operations go into one level of a transaction. etcd takes 128 of one level and those below it together, unless it was told
 * otherwise.
 */
const MOST_OPERATIONS = 60

/**
 * Writes changes in one transaction, if nobody has changed the stage since a state was read.
 *
 * @returns the revision of the change
 * @throws {StoreError} of the kind `conflict` where somebody has
 */
export async function writeChanges(
  gateway: Gateway,
  keys: Keys,
  changes: readonly StoreChange[],
  expected: StoreState,
  { by, signal }: StoreRequest & { readonly by?: string },
): Promise<string> {
  const { stage } = expected
  const note: ChangeNote = { id: crypto.randomUUID(), by: by ?? null, at: new Date().toISOString() }
  const request = {
    compare: makeComparisons(keys, changes, expected),
    success: groupChanges([
      ...changes.map(({ name, value }) => operation(keys.of(stage, name), value)),
      operation(keys.note(stage), JSON.stringify(note)),
    ]),
    failure: [{ request_range: keys.range(stage) }, { request_range: { key: keys.note(stage) } }],
  }
  const call = signal === undefined ? {} : { signal }
  const answer = await send(gateway, request, call)
  if (answer.succeeded === true) return getRevision(answer)
  const [now, last] = (answer.responses ?? []) as readonly { response_range?: Answer }[]
  // An attempt whose answer was lost may have been carried out: then this note stands there.
  const own = findPairs(last?.response_range ?? {})[0]
  if (own !== undefined && readNote(own)?.id === note.id) return own.mod_revision
  throw reportConflict(findDiffering(keys, expected, findPairs(now?.response_range ?? {})))
}

/** Sends a transaction; again where no member answered in time, since it can be carried out only once. */
async function send(gateway: Gateway, request: object, call: Call): Promise<Answer> {
  for (let attempt = 1; ; attempt++) {
    try {
      // A write can be sent twice, so one whose answer can't be used goes to the next member as well.
      return await gateway.call('kv/txn', request, { ...call, check: (answer) => void getRevision(answer) })
    } catch (error) {
      if (!mayPass(error) || attempt === 3 || call.signal?.aborted) throw error
    }
  }
}

/**
 * Nothing in the stage is newer than what was read, nor is the note, which also tells of what was removed. Names that change are
 * looked at one by one as well, if they are few: others may have removed one without a note.
 */
function makeComparisons(
  keys: Keys,
  changes: readonly StoreChange[],
  { stage, revision, entries }: StoreState,
): readonly object[] {
  const untouched = { target: 'MOD', result: 'LESS', mod_revision: String(BigInt(revision) + 1n) }
  const whole = [
    { ...keys.range(stage), ...untouched },
    { key: keys.note(stage), ...untouched },
  ]
  if (changes.length > MOST_OPERATIONS) return whole
  const single = changes.map(({ name }) => {
    const known = entries.get(name)?.revision ?? '0'
    return { key: keys.of(stage, name), target: 'MOD', result: 'EQUAL', mod_revision: known }
  })
  return [...whole, ...single]
}

function operation(key: string, value: string | null): object {
  return value === null ? { request_delete_range: { key } } : { request_put: { key, value: encode(value) } }
}

/** Operations in transactions within the transaction, where there are more than one level takes. */
function groupChanges(operations: readonly object[]): readonly object[] {
  if (operations.length <= MOST_OPERATIONS) return operations
  const groups: object[] = []
  for (let at = 0; at < operations.length; at += MOST_OPERATIONS)
    groups.push({ request_txn: { success: operations.slice(at, at + MOST_OPERATIONS) } })
  return groups
}

/** The note about a change; `null` where it is somebody else's. */
export function readNote({ value = '' }: KeyValue): ChangeNote | null {
  try {
    const { id, by, at } = JSON.parse(Buffer.from(value, 'base64').toString('utf8')) as Partial<ChangeNote>
    return typeof id === 'string' && typeof at === 'string' ? { id, by: typeof by === 'string' ? by : null, at } : null
  } catch {
    return null
  }
}

/** The names that were changed since. */
function findDiffering(keys: Keys, { stage, entries }: StoreState, now: readonly KeyValue[]): readonly string[] {
  const present = new Map(now.map((each) => [keys.findName(stage, each.key) ?? '', each.mod_revision]))
  const changed = [...present].filter(([name, revision]) => entries.get(name)?.revision !== revision)
  const removed = [...entries.keys()].filter((name) => !present.has(name))
  return [...changed.map(([name]) => name), ...removed].filter((name) => name !== '')
}
