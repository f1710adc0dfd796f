import assert from 'node:assert/strict'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { certificate } from '@mappa/tests/support/certificate'
import { startCluster } from '@mappa/tests/support/etcd'
import { type Faults, Hosting } from '@mappa/tests/support/hosting'
import { needs } from '@mappa/tests/support/programs'
import { etcdStore } from 'mappa-settings/etcd'
import { httpStore, type Store } from 'mappa-settings/store'
import { checkStore } from 'mappa-settings/testing'

const KEY = 'open-sky-8fK2qWm5Zt1Lx7Rd'

async function startHosting(context: TestContext): Promise<{ hosting: Hosting; store: Store }> {
  const hosting = await Hosting.start()
  const store = httpStore({ url: hosting.url, token: hosting.token, timeout: 400 })
  context.after(() => {
    store.close!()
    hosting.stop()
  })
  return { hosting, store }
}

describe('the promises of a store', () => {
  it('are kept by the simulated hosting service', async (context) => {
    const { store } = await startHosting(context)
    const promises = await checkStore(store)
    assert.deepEqual(
      promises.filter(({ broken }) => broken !== null),
      [],
    )
    assert.equal(promises.length, 8)
  })

  it('are kept by etcd', needs('etcd-server'), async (context) => {
    const { endpoints } = await startCluster(context)
    const store = etcdStore({ endpoints, prefix: 'fernhollow/dome-api' })
    context.after(() => store.close!())
    const promises = await checkStore(store)
    assert.deepEqual(
      promises.filter(({ broken }) => broken !== null),
      [],
    )
    assert.equal(promises.length, 9)
  })

  it('are said to be broken where they are', async () => {
    const texts = new Map<string, string>()
    let revision = 0
    const forgetful: Store = {
      id: 'forgetful',
      describe: () => 'a store that trims, and that lets everybody write',
      read: async (stage) => ({
        stage,
        revision: String(revision),
        entries: new Map([...texts].map(([name, value]) => [name, { value: value.trim(), revision: '1' }])),
      }),
      async write(changes) {
        for (const { name, value } of changes) if (value !== null) texts.set(name, value)
        return String(++revision)
      },
    }
    const broken = (await checkStore(forgetful)).filter((each) => each.broken !== null)
    assert.deepEqual(
      broken.map(({ promise }) => promise),
      [
        'heeds the signal of a request',
        'keeps texts as they are',
        'writes nothing where a name was changed meanwhile',
        'writes nothing where a name was added meanwhile',
        'removes a name',
      ],
    )
  })
})

describe('a store over HTTP', () => {
  it('lists names and digests, and never gives a value back', async (context) => {
    const { store } = await startHosting(context)
    await store.write!([{ name: 'DOME_KEY', value: KEY }], await store.read('production'), { by: 'ada@desk' })
    const state = await store.read('production')
    const entry = state.entries.get('DOME_KEY')!
    assert.deepEqual([entry.value, entry.digest!.length], [null, 64])
    const { events } = await store.history!('production')
    assert.deepEqual(events[0]!.names, [{ name: 'DOME_KEY', what: 'added' }])
    assert.ok(!JSON.stringify([...state.entries, events]).includes(KEY))
  })

  const faults: Readonly<Record<string, readonly [faults: Faults, kind: string, reason: RegExp]>> = {
    'no answer in time': [{ delay: 1000 }, 'timeout', /gave no answer within 0.4 s/],
    'half an answer': [{ half: true }, 'answer', /no JSON object, or a part of one/],
    'the wrong stage': [{ wrongStage: true }, 'answer', /another stage than production/],
    'a page of HTML': [{ html: true }, 'answer', /a page of HTML/],
    'a redirect': [
      { redirect: 'http://127.0.0.1:1/' },
      'answer',
      /redirects to another address, which is not followed/,
    ],
    'an error of the server': [{ status: 503 }, 'unreachable', /the status 503/],
    'too many requests': [{ status: 429 }, 'unreachable', /429/],
    'no access': [{ status: 403 }, 'denied', /does not allow it/],
  }
  for (const [name, [fault, kind, reason]] of Object.entries(faults)) {
    it(`says what is wrong with ${name}`, async (context) => {
      const { hosting, store } = await startHosting(context)
      Object.assign(hosting.faults, fault)
      await assert.rejects(store.read('production'), { name: 'StoreError', kind, reason })
    })
  }

  it('asks again where an idle connection was closed on the other side', async (context) => {
    const used = new Set<unknown>()
    const body = { protocol: 'mappa-store/1', stage: 'production', revision: '1', variables: [] }
    const server = createServer((request, response) => {
      if (used.has(request.socket)) return request.socket.destroy()
      used.add(request.socket)
      return response.end(JSON.stringify(body))
    }).listen(0, '127.0.0.1')
    context.after(() => server.close())
    await once(server, 'listening')
    const { port } = server.address() as { port: number }
    const store = httpStore({ url: `http://127.0.0.1:${port}`, token: 'x' })
    context.after(() => store.close!())
    for (let at = 0; at < 4; at++) assert.equal((await store.read('production')).revision, '1')
    await Promise.all([1, 2, 3].map(() => store.read('production')))
    assert.equal((await store.read('production')).revision, '1')
    assert.ok(used.size > 4)
  })

  it('sends its token to nobody else', async (context) => {
    const seen: (string | undefined)[] = []
    const other = createServer((request, response) => {
      seen.push(request.headers.authorization)
      response.end('{}')
    }).listen(0, '127.0.0.1')
    context.after(() => other.close())
    await once(other, 'listening')
    const { hosting, store } = await startHosting(context)
    hosting.faults.redirect = `http://127.0.0.1:${(other.address() as { port: number }).port}/`
    await assert.rejects(store.read('production'))
    await assert.rejects(
      store.write!([{ name: 'A', value: KEY }], { stage: 'production', revision: '1', entries: new Map() }),
    )
    assert.deepEqual(seen, [])
  })

  it('trusts no certificate that has expired, or that it does not know', needs('openssl'), async (context) => {
    const directory = mkdtempSync(join(tmpdir(), 'mappa-tls-'))
    context.after(() => rmSync(directory, { recursive: true }))
    const good = certificate(directory, ['20200101000000Z', '20991231235959Z'])
    const expired = certificate(directory, ['20200101000000Z', '20200102000000Z'])
    for (const [server, ca, reason] of [
      [good, good.cert, null],
      [good, undefined, /signed by nobody else/],
      [expired, expired.cert, /has expired/],
    ] as const) {
      const hosting = await Hosting.start(['production'], server)
      context.after(() => hosting.stop())
      const store = httpStore({ url: hosting.url, token: hosting.token, ...(ca === undefined ? {} : { tls: { ca } }) })
      if (reason === null) assert.equal((await store.read('production')).stage, 'production')
      else await assert.rejects(store.read('production'), { kind: 'answer', reason })
      store.close!()
    }
  })

  const wrong: Readonly<Record<string, readonly [options: object, says: RegExp]>> = {
    'an address that is none': [{ url: 'hosting' }, /url of httpStore must be an address/],
    'an address without TLS on another machine': [
      { url: 'http://hosting.fernhollow.example' },
      /must begin with https/,
    ],
    'an address with a user': [{ url: 'https://a:b@hosting.fernhollow.example' }, /url of httpStore/],
    'no token': [{ token: '' }, /token of httpStore must be a text/],
    'a misspelled option': [{ tokn: 'x' }, /Did you mean token/],
  }
  for (const [name, [options, says]] of Object.entries(wrong)) {
    it(`refuses ${name}`, () => {
      const make = () => httpStore({ url: 'https://hosting.fernhollow.example', token: 'x', ...options })
      assert.throws(make, { name: 'SettingsError', message: says })
    })
  }
})
