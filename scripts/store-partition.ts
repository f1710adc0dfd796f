// Cuts the leader of a cluster off from the other members, in network namespaces of its own, while programs work with it. Needs root,
// etcd, ip (iproute2) and iptables.
import assert from 'node:assert/strict'
import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { isStoreError } from '@mappa/core/store/store-error'
import { etcdStore } from '@mappa/node/stores/etcd/etcd-store'
import { until } from '@mappa/tests/support/etcd'

const [times = 10, readers = 12] = process.argv.slice(2).map(Number)
const MEMBERS = [0, 1, 2] as const
const NET = '10.177.91'
const address = (member: number) => `${NET}.${member + 11}`
const space = (member: number) => `fernhollow-${member}`
const bridge = 'fernhollow-br'
const directory = mkdtempSync(join(tmpdir(), 'mappa-partition-'))
const running: ChildProcess[] = []

function run(program: string, ...words: string[]): void {
  const { status, stderr } = spawnSync(program, words, { encoding: 'utf8' })
  if (status !== 0) throw new Error(`${program} ${words.join(' ')}: ${stderr}`)
}

function setUp(): void {
  run('ip', 'link', 'add', bridge, 'type', 'bridge')
  run('ip', 'addr', 'add', `${NET}.1/24`, 'dev', bridge)
  run('ip', 'link', 'set', bridge, 'up')
  for (const member of MEMBERS) {
    run('ip', 'netns', 'add', space(member))
    run('ip', 'link', 'add', `fh${member}`, 'type', 'veth', 'peer', 'name', 'eth0', 'netns', space(member))
    run('ip', 'link', 'set', `fh${member}`, 'master', bridge, 'up')
    inside(member, 'ip', 'addr', 'add', `${address(member)}/24`, 'dev', 'eth0')
    inside(member, 'ip', 'link', 'set', 'eth0', 'up')
    inside(member, 'ip', 'link', 'set', 'lo', 'up')
    const client = `http://${address(member)}:2379`
    const peer = (each: number) => `http://${address(each)}:2380`
    const words = [
      ...['--name', `m${member}`, '--data-dir', join(directory, `m${member}`), '--log-level', 'error'],
      ...['--listen-client-urls', client, '--advertise-client-urls', client],
      ...['--listen-peer-urls', peer(member), '--initial-advertise-peer-urls', peer(member)],
      ...['--initial-cluster', MEMBERS.map((each) => `m${each}=${peer(each)}`).join(',')],
      ...['--heartbeat-interval', '50', '--election-timeout', '500'],
    ]
    running.push(spawn('ip', ['netns', 'exec', space(member), 'etcd', ...words], { stdio: 'ignore' }))
  }
}

const inside = (member: number, ...words: string[]) => run('ip', 'netns', 'exec', space(member), ...words)

function tearDown(): void {
  for (const each of running) each.kill('SIGKILL')
  for (const member of MEMBERS) spawnSync('ip', ['netns', 'del', space(member)])
  spawnSync('ip', ['link', 'del', bridge])
  rmSync(directory, { recursive: true, force: true })
}

/** Keeps a member from hearing the others and from being heard by them; programs reach it as before. */
function cut(member: number, isCut: boolean): void {
  for (const other of MEMBERS.filter((each) => each !== member)) {
    inside(member, 'iptables', isCut ? '-A' : '-D', 'INPUT', '-s', address(other), '-j', 'DROP')
    inside(member, 'iptables', isCut ? '-A' : '-D', 'OUTPUT', '-d', address(other), '-j', 'DROP')
  }
}

async function leader(): Promise<number> {
  for (const member of MEMBERS) {
    const signal = AbortSignal.timeout(1000)
    const url = `http://${address(member)}:2379/v3/maintenance/status`
    const answer = await fetch(url, { method: 'POST', body: '{}', signal }).then((each) => each.json())
    const { leader: id, header } = answer as { leader?: string; header: { member_id: string } }
    if (id === header.member_id) return member
  }
  throw new Error('no leader')
}

/** A store whose program asks this member first. */
function open(first: number) {
  const order = MEMBERS.map((_, at) => (first + at) % MEMBERS.length)
  const endpoints = order.map((member) => `http://${address(member)}:2379`)
  return etcdStore({ endpoints, prefix: 'fernhollow/dome-api', memberTimeout: 800 })
}

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds))

try {
  setUp()
  const first = await until(() => open(0).read('production'))
  const seen = new Array<number>(readers).fill(0)
  for (const at of seen.keys()) {
    open(at % MEMBERS.length).watch!(first, {
      onState: ({ entries }) => {
        const number = Number(entries.get('NUMBER')?.value ?? 0)
        assert.ok(number >= seen[at]!, 'an older change was told after a newer one')
        seen[at] = number
      },
      onError: () => {},
    })
  }
  let acknowledged = 0
  let isOver = false
  const write = async () => {
    const store = open(1)
    while (!isOver) {
      try {
        const state = await store.read('production')
        const present = Number(state.entries.get('NUMBER')?.value ?? 0)
        assert.ok(present >= acknowledged, 'an acknowledged change is lost')
        await store.write!([{ name: 'NUMBER', value: String(present + 1) }], state)
        acknowledged = present + 1
      } catch (error) {
        if (!isStoreError(error)) throw error
      }
      await pause(10)
    }
  }
  const writing = write()
  const delays: number[] = []
  for (let time = 0; time < times; time++) {
    const member = await until(leader)
    cut(member, true)
    const began = Date.now()
    // What was on its way is through by then.
    await pause(150)
    const before = acknowledged
    // Another leader is there when changes are acknowledged again; each reader must hear of them although one third asked the old one.
    await until(() => assert.notEqual(acknowledged, before), 20_000)
    const target = acknowledged
    await until(
      () =>
        assert.deepEqual(
          seen.filter((each) => each < target),
          [],
        ),
      40_000,
    )
    delays.push(Date.now() - began)
    cut(member, false)
    await pause(1000)
  }
  isOver = true
  await writing
  await until(
    () =>
      assert.deepEqual(
        seen.filter((each) => each < acknowledged),
        [],
      ),
    40_000,
  )
  const sorted = delays.sort((a, b) => a - b)
  console.log({
    cuts: times,
    readers,
    acknowledged,
    'all told again after (ms)': [sorted[0], sorted[sorted.length >> 1], sorted.at(-1)],
  })
} finally {
  tearDown()
}
process.exit()
