import assert from 'node:assert/strict'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { certificate } from '@mappa/tests/support/certificate'
import { base64, type Cluster, startCluster, until } from '@mappa/tests/support/etcd'
import { needs } from '@mappa/tests/support/programs'
import { runFaults } from '@mappa/tests/support/store-faults'
import { etcdStore } from 'mappa-settings/etcd'
import type { Store, StoreState } from 'mappa-settings/store'

const PREFIX = 'fernhollow/dome-api'
const KEY = 'open-sky-8fK2qWm5Zt1Lx7Rd'

const open = (context: TestContext, { endpoints }: Pick<Cluster, 'endpoints'>, more: object = {}): Store => {
  const store = etcdStore({ endpoints, prefix: PREFIX, ...more })
  context.after(() => store.close!())
  return store
}

const valuesOf = ({ entries }: StoreState) => Object.fromEntries([...entries].map(([name, { value }]) => [name, value]))

/** Collects what a watcher is told. */
function watching(context: TestContext, store: Store, from: StoreState) {
  const states: StoreState[] = []
  const errors: unknown[] = []
  const stop = store.watch!(from, { onState: (each) => states.push(each), onError: (each) => errors.push(each) })
  context.after(stop)
  return { states, errors, stop }
}

describe('a store in etcd', needs('etcd-server', 'openssl'), () => {
  it('reads and writes whole changes, and says which change set a value', async (context) => {
    const cluster = await startCluster(context)
    const store = open(context, cluster)
    assert.equal(store.describe(), 'etcd fernhollow/dome-api')
    const empty = await store.read('production')
    assert.deepEqual([...empty.entries], [])
    const texts = { DOME_KEY: KEY, TEXT: 'a "b"\n$c ü 🔭', EMPTY: '' }
    const changes = Object.entries(texts).map(([name, value]) => ({ name, value }))
    const revision = await store.write!(changes, empty, { by: 'ada@desk' })
    const state = await store.read('production')
    assert.deepEqual(valuesOf(state), { ...texts })
    for (const each of state.entries.values()) assert.equal(each.revision, revision)
    assert.deepEqual(valuesOf(await store.read('staging')), {})
    const { kvs } = (await cluster.ask('kv/range', { key: base64(`${PREFIX}/production/DOME_KEY`) })) as {
      kvs: { value: string }[]
    }
    assert.equal(Buffer.from(kvs[0]!.value, 'base64').toString(), KEY)
    await store.write!([{ name: 'TEXT', value: null }], state)
    assert.deepEqual(valuesOf(await store.read('production')), { DOME_KEY: KEY, EMPTY: '' })
  })

  it('writes nothing where somebody changed, added or removed something meanwhile', async (context) => {
    const store = open(context, await startCluster(context))
    const pair = (a: string, b: string) => [
      { name: 'A', value: a },
      { name: 'B', value: b },
    ]
    await store.write!(pair('1', '1'), await store.read('production'))
    const seen = await store.read('production')
    const meanwhile = [[{ name: 'B', value: '2' }], [{ name: 'C', value: '1' }], [{ name: 'A', value: null }]]
    for (const changes of meanwhile) {
      const before = await store.read('production')
      await store.write!(changes, before)
      const now = valuesOf(await store.read('production'))
      const name = changes[0]!.name
      await assert.rejects(store.write!(pair('9', '9'), before), {
        name: 'StoreError',
        kind: 'conflict',
        reason: new RegExp(name),
      })
      await assert.rejects(store.write!(pair('9', '9'), seen), { kind: 'conflict' })
      assert.deepEqual(valuesOf(await store.read('production')), now)
    }
  })

  it('writes 500 values at once, or none of them', async (context) => {
    const store = open(context, await startCluster(context))
    const changes = Array.from({ length: 500 }, (_, at) => ({ name: `NAME_${at}`, value: `value ${at}` }))
    const seen = await store.read('production')
    const revision = await store.write!(changes, seen)
    const state = await store.read('production')
    assert.equal(state.entries.size, 500)
    assert.ok([...state.entries.values()].every((each) => each.revision === revision))
    await assert.rejects(store.write!(changes, seen), { kind: 'conflict' })
  })

  it('tells of each change, whole, also after a broken connection and after what happened was forgotten', async (context) => {
    const cluster = await startCluster(context)
    const store = open(context, cluster)
    const other = open(context, cluster)
    const first = await store.read('production')
    const { states } = watching(context, store, first)
    let seen = first
    const put = async (value: string) => {
      await other.write!(
        ['A', 'B'].map((name) => ({ name, value })),
        seen,
      )
      seen = await other.read('production')
    }
    const arrives = (value: string) => until(() => assert.deepEqual(valuesOf(states.at(-1)!), { A: value, B: value }))
    await put('1')
    await arrives('1')
    await cluster.kill(0)
    await cluster.start(0)
    await put('2')
    await arrives('2')
    await cluster.kill(0)
    await cluster.start(0)
    await put('3')
    await put('4')
    await cluster.ask('kv/compaction', { revision: seen.revision })
    await arrives('4')
    for (const state of states) assert.equal(new Set(Object.values(valuesOf(state))).size, 1, 'half of a change')
  })

  it('loses no change while members are killed and changes forgotten, and tells of none by half', async (context) => {
    const { acknowledged, told } = await runFaults(context, 8, 5, 7)
    assert.ok(acknowledged > 20 && told > 100)
  })

  it('lists who changed which name when, and never a value', async (context) => {
    const cluster = await startCluster(context)
    const store = open(context, cluster)
    const read = () => store.read('production')
    await store.write!([{ name: 'DOME_KEY', value: KEY }], await read(), { by: 'ada@desk' })
    await cluster.ask('kv/put', { key: base64(`${PREFIX}/production/SERVER_PORT`), value: base64('4100') })
    const both = [
      { name: 'DOME_KEY', value: null },
      { name: 'SERVER_PORT', value: '4200' },
    ]
    await store.write!(both, await read(), { by: 'bo@desk' })
    const { events, isCut } = await store.history!('production')
    assert.equal(isCut, false)
    const short = events.map(({ by, names, at }) => [
      by,
      at === null,
      names.map(({ name, what }) => `${what} ${name}`).sort(),
    ])
    assert.deepEqual(short, [
      ['bo@desk', false, ['changed SERVER_PORT', 'removed DOME_KEY']],
      [null, true, ['added SERVER_PORT']],
      ['ada@desk', false, ['added DOME_KEY']],
    ])
    assert.ok(!JSON.stringify(events).includes(KEY))
    await cluster.ask('kv/compaction', { revision: events[1]!.revision })
    const cut = await store.history!('production')
    assert.deepEqual([cut.isCut, cut.events.length], [true, 2])
    assert.deepEqual(await store.history!('staging'), { events: [], isCut: true })
  })

  it('keeps apart what is no text, no name, and no stage of its own', async (context) => {
    const cluster = await startCluster(context)
    const put = (key: string, value: string | Buffer) =>
      cluster.ask('kv/put', { key: base64(`${PREFIX}/${key}`), value: base64(value) })
    await put('production/BINARY', Buffer.from([0xff, 0xfe, 0]))
    await put('production/no name', 'x')
    await put('production/deeper/NAME', 'x')
    await put('production-2/OTHER', 'x')
    await put('production0', 'x')
    await put('production/GOOD', 'x')
    const { entries, oddKeys } = await open(context, cluster).read('production')
    assert.deepEqual([...entries.keys()], ['BINARY', 'GOOD'])
    assert.equal(entries.get('BINARY')!.broken, true)
    assert.deepEqual(oddKeys, ['deeper/NAME', 'no name'])
  })

  it('has users and roles, and goes on when a token has expired', async (context) => {
    const cluster = await startCluster(context)
    const range = { permType: 'READ', key: base64(`${PREFIX}/`), range_end: base64(`${PREFIX}0`) }
    await cluster.ask('auth/user/add', { name: 'root', password: 'root-pw' })
    await cluster.ask('auth/user/grant', { user: 'root', role: 'root' })
    await cluster.ask('auth/role/add', { name: 'reader' })
    await cluster.ask('auth/role/grant', { name: 'reader', perm: range })
    await cluster.ask('auth/user/add', { name: 'dome-api', password: 'pw-9X2k' })
    await cluster.ask('auth/user/grant', { user: 'dome-api', role: 'reader' })
    await cluster.ask('auth/enable', {})
    // A password takes long to be checked, and a busy machine longer.
    const user = { username: 'dome-api', password: 'pw-9X2k', memberTimeout: 10_000 }
    const store = open(context, cluster, user)
    const state = await store.read('production')
    const { states } = watching(context, store, state)
    // Tokens are kept in memory: all of them are lost with the member.
    await cluster.kill(0)
    await cluster.start(0)
    await store.read('production')
    const root = open(context, cluster, { username: 'root', password: 'root-pw' })
    await root.write!([{ name: 'A', value: '1' }], state)
    await until(() => assert.equal(states.at(-1)?.entries.size, 1))
    const refusals: readonly (readonly [ask: () => Promise<unknown>, reason: RegExp])[] = [
      [() => store.write!([{ name: 'A', value: '2' }], state), /role of the user/],
      [
        () => open(context, cluster, { ...user, prefix: 'fernhollow/night-desk' }).read('production'),
        /role of the user/,
      ],
      [() => open(context, cluster, { ...user, password: 'wrong' }).read('production'), /the password is wrong/],
      [() => open(context, cluster).read('production'), /asks for a user name/],
    ]
    for (const [ask, reason] of refusals) await assert.rejects(ask, { kind: 'denied', reason })
  })

  it('speaks TLS, trusts those that it is told to, and shows its own certificate', async (context) => {
    const directory = mkdtempSync(join(tmpdir(), 'mappa-etcd-tls-'))
    context.after(() => rmSync(directory, { recursive: true }))
    const { cert, key } = certificate(directory, ['20200101000000Z', '20991231235959Z'])
    const files = ['--cert-file', join(directory, 'cert.pem'), '--key-file', join(directory, 'key.pem')]
    const own = ['--client-cert-auth', '--trusted-ca-file', join(directory, 'cert.pem')]
    const cluster = await startCluster(context, 1, [...files, ...own])
    const store = open(context, cluster, { tls: { ca: cert, cert, key } })
    const state = await until(() => store.read('production'))
    await store.write!([{ name: 'DOME_KEY', value: KEY }], state)
    assert.deepEqual(valuesOf(await store.read('production')), { DOME_KEY: KEY })
    await assert.rejects(open(context, cluster).read('production'), { kind: 'answer', reason: /signed by nobody else/ })
    await assert.rejects(open(context, cluster, { tls: { ca: cert } }).read('production'), { name: 'StoreError' })
    const plain = cluster.endpoints.map((each) => each.replace('https', 'http'))
    await assert.rejects(open(context, { endpoints: plain }).read('production'), { name: 'StoreError' })
  })

  it('goes on with the other members where one is gone, hung up, or not even known', async (context) => {
    const cluster = await startCluster(context, 3)
    const store = open(
      context,
      { ...cluster, endpoints: ['http://127.0.0.1:1', ...cluster.endpoints] },
      { memberTimeout: 700 },
    )
    const state = await store.read('production')
    const { states } = watching(context, store, state)
    await cluster.kill(0)
    const second = await until(async () => {
      await store.write!([{ name: 'A', value: '1' }], await store.read('production'))
      return store.read('production')
    })
    await until(() => assert.deepEqual(valuesOf(states.at(-1)!), { A: '1' }))
    await cluster.start(0)
    cluster.freeze(1)
    await until(async () => store.write!([{ name: 'A', value: '2' }], await store.read('production')))
    cluster.thaw(1)
    await until(() => assert.deepEqual(valuesOf(states.at(-1)!), { A: '2' }), 30_000)
    assert.notEqual(second.revision, states.at(-1)!.revision)
  })

  it('says what it may not write, and goes on reading, where the disk of a cluster is full', async (context) => {
    const cluster = await startCluster(context, 1, ['--quota-backend-bytes', String(16 * 1024 * 1024)])
    const store = open(context, cluster)
    await store.write!([{ name: 'A', value: '1' }], await store.read('production'))
    const large = 'x'.repeat(1_000_000)
    const fills = async () => {
      for (let at = 0; at < 40; at++)
        await store.write!([{ name: `LARGE_${at}`, value: large }], await store.read('production'))
    }
    await assert.rejects(fills, { kind: 'refused', reason: /disk space is used up/ })
    assert.equal((await store.read('production')).entries.get('A')!.value, '1')
    const tooLarge = [{ name: 'B', value: 'x'.repeat(2_000_000) }]
    const other = open(context, await startCluster(context))
    await assert.rejects(other.write!(tooLarge, await other.read('production')), {
      kind: 'refused',
      reason: /larger than/,
    })
  })

  const answers: Readonly<Record<string, readonly [status: number, body: string, kind: string, reason: RegExp]>> = {
    'a page of HTML': [200, '<html>Sign in</html>', 'answer', /page of HTML/],
    'a part of an answer': [200, '{"header":{"revis', 'answer', /something else than JSON/],
    'an answer without a revision': [200, '{}', 'answer', /names no revision/],
    'a gateway of an older version': [404, '404 page not found', 'answer', /no gateway of etcd 3\.4/],
    'a proxy without its backend': [502, '{}', 'unreachable', /can't answer at the moment/],
    'keys that are no list': [200, '{"header":{"revision":"1"},"kvs":7}', 'answer', /no list/],
    'an error that quotes a secret': [
      400,
      `{"error":"bad ${KEY}","code":3}`,
      'refused',
      /^it answers with the status 400$/,
    ],
  }
  for (const [name, [status, body, kind, reason]] of Object.entries(answers)) {
    it(`says what is wrong with ${name}`, async (context) => {
      const server = createServer((_request, response) => response.writeHead(status).end(body)).listen(0, '127.0.0.1')
      context.after(() => server.close())
      await once(server, 'listening')
      const { port } = server.address() as { port: number }
      const store = open(context, { endpoints: [`http://127.0.0.1:${port}`] })
      await assert.rejects(store.read('production'), { name: 'StoreError', kind, reason })
    })
  }

  const wrong: Readonly<Record<string, readonly [options: object, says: RegExp]>> = {
    'no address': [{ endpoints: [] }, /endpoints of etcdStore must be a list of addresses/],
    'an address with a password': [{ endpoints: ['http://a:b@127.0.0.1:2379'] }, /endpoints/],
    'a prefix with a blank': [{ prefix: 'a b' }, /prefix of etcdStore must be names/],
    'a user without a password': [{ username: 'x' }, /username of etcdStore and password belong together/],
    'a misspelled option': [{ endpoint: 'x' }, /Did you mean endpoints/],
  }
  for (const [name, [options, says]] of Object.entries(wrong)) {
    it(`refuses ${name}`, () => {
      const make = () => etcdStore({ endpoints: ['http://127.0.0.1:2379'], prefix: PREFIX, ...options })
      assert.throws(make, { name: 'SettingsError', message: says })
    })
  }
})
