import assert from 'node:assert/strict'
import type { Store, StoreState } from '@mappa/core/store/store'
import { isStoreError } from '@mappa/core/store/store-error'
import { etcdStore } from '@mappa/node/stores/etcd/etcd-store'
import { type Cluster, startCluster, until } from '@mappa/tests/support/etcd'

/** What came of a run. */
export interface FaultRun {
  readonly faults: number
  readonly acknowledged: number
  readonly conflicts: number
  readonly unanswered: number
  readonly told: number
  readonly seconds: number
}

/**
 * Works on three members of etcd with one writer and many readers while members are killed, frozen and all taken away, and older changes
 * are forgotten.
 *
 * @param faults how many times
 * @param readers how many watchers, each with connections of its own
 * @param seed decides what happens when
 * @throws where an acknowledged change is lost, a reader is told of half of a change, of an older one after a newer one, or does not
 * arrive at the last value
 */
export async function runFaults(
  context: Parameters<typeof startCluster>[0],
  faults: number,
  readers: number,
  seed: number,
): Promise<FaultRun> {
  const began = Date.now()
  const cluster = await startCluster(context, 3)
  const random = generator(seed)
  const open = () => etcdStore({ endpoints: cluster.endpoints, prefix: 'fernhollow/dome-api', memberTimeout: 800 })
  const first = await until(() => open().read('production'))
  const watchers = Array.from({ length: readers }, () => new Reader(open(), first))
  const writer = new Writer(open())
  const writing = writer.run()
  try {
    for (let at = 0; at < faults; at++) await fault(cluster, random, at, writer)
  } finally {
    writer.stop()
    await writing
  }
  const last = await until(async () => numberIn(await open().read('production')))
  assert.ok(last >= writer.acknowledged, 'an acknowledged change is lost')
  await until(() => assert.deepEqual(new Set(watchers.map(({ seen }) => seen)), new Set([last])), 60_000)
  for (const each of watchers) each.stop()
  return {
    faults,
    acknowledged: writer.count,
    conflicts: writer.conflicts,
    unanswered: writer.unanswered,
    told: watchers.reduce((sum, { told }) => sum + told, 0),
    seconds: Math.round((Date.now() - began) / 1000),
  }
}

async function fault(cluster: Cluster, random: (below: number) => number, at: number, writer: Writer): Promise<void> {
  const member = random(3)
  if (at % 25 === 24) {
    await Promise.all([0, 1, 2].map(cluster.kill))
    await pause(random(300))
    await Promise.all([0, 1, 2].map(cluster.start))
  } else if (at % 10 === 9) {
    // As if the member were cut off from the others, the leader perhaps.
    cluster.freeze(member)
    await pause(1500)
    cluster.thaw(member)
  } else {
    await cluster.kill(member)
    await pause(random(300))
    await cluster.start(member)
  }
  if (at % 7 === 6) await cluster.ask('kv/compaction', { revision: writer.revision }).catch(() => {})
  // Some time in which all is well, so that there are changes to lose.
  await pause(random(300))
}

/** Writes two names with one number, again and again, each time the next. */
class Writer {
  acknowledged = 0
  count = 0
  conflicts = 0
  unanswered = 0
  revision = '1'
  readonly #store: Store
  #isOver = false

  constructor(store: Store) {
    this.#store = store
  }

  stop(): void {
    this.#isOver = true
  }

  async run(): Promise<void> {
    while (!this.#isOver) {
      try {
        const state = await this.#store.read('production')
        const present = numberIn(state)
        assert.ok(present >= this.acknowledged, `${this.acknowledged} was acknowledged, and ${present} is there`)
        const next = Math.max(present, this.acknowledged) + 1
        const pair = ['ONE', 'OTHER'].map((name) => ({ name, value: String(next) }))
        this.revision = await this.#store.write!(pair, state)
        this.acknowledged = next
        this.count++
      } catch (error) {
        if (!isStoreError(error)) throw error
        if (error.kind === 'conflict') this.conflicts++
        else this.unanswered++
      }
      await pause(5)
    }
  }
}

/** Watches, and checks what it is told. */
class Reader {
  seen = 0
  told = 0
  readonly #store: Store
  readonly #stop: () => void

  constructor(store: Store, from: StoreState) {
    this.#store = store
    this.#stop = store.watch!(from, {
      onState: (state) => {
        // Thrown here, it ends the whole run.
        const number = numberIn(state)
        assert.ok(number >= this.seen, 'an older change was told after a newer one')
        this.seen = number
        this.told++
      },
      onError: () => {},
    })
  }

  stop(): void {
    this.#stop()
    this.#store.close?.()
  }
}

/** The number of a state, of which both names have to have the same. */
function numberIn({ entries }: StoreState): number {
  const [one, other] = ['ONE', 'OTHER'].map((name) => entries.get(name)?.value ?? '0')
  assert.equal(one, other, 'half of a change')
  return Number(one)
}

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds))

/** Numbers that look drawn by lot, the same for a seed each time. */
function generator(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff
    return (state >> 8) % below
  }
}

if (process.argv[1] === import.meta.filename) {
  const ends: (() => unknown)[] = []
  const context = { after: (end: () => unknown) => ends.push(end) } as never
  const [faults = 200, readers = 50, seed = 1] = process.argv.slice(2).map(Number)
  try {
    console.log(await runFaults(context, faults, readers, seed))
  } finally {
    for (const end of ends) await end()
  }
  process.exit()
}
